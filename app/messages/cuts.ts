/** Wording: ordinary cuts. */
export const cuts = {
  cut: {
    mark: 'The test mark in the margin',
    markWhy: 'Lift each before you unload, lightest first. Leave out what you did not cut.',
    markAsk: (shown: string) => `At ${shown}`,
    title: 'How did it go?',
    noted: 'your cut is noted',
    ask: 'How did it go? Lift the waste.',
    last: 'How did the last cut go?',
    earlier: 'And the one before?',
    later: 'Not weeded yet? You are asked again on the bench.',
    notCut: 'I did not cut it',
    kept: (grade: string) => `Kept: ${grade}.`,
    undo: 'Take it back',
    back: 'To the bench',
    card: (who: string) => `You cut it with the number of ${who}. Your grade counts on that card.`,
    toCard: 'Look at the card',
    say: 'What did you see? (if you like)',
    tell: (who: string) => `Tell ${who}`,
    told: (who: string) => `${who} finds it in the inbox.`,
  },
} as const;
