import type { WeedReading } from '#core/weed/index.ts';
import { behaviourOf, type Behaviour } from '#core/vinyls/index.ts';
import type { Vinyl } from '#work/vinyls/vinyls.ts';
import { words } from '../../messages/index.ts';
import { isolate } from '../../ui/base/format.ts';
import { SideDrawing } from '../../ui/vinyls/SideDrawing.tsx';
import { vinylHex } from '../../ui/vinyls/vinylName.ts';
import type { FormAnswer } from '../../server/enter.server.ts';
import { OwnNotes } from '../../ui/vinyls/OwnNotes.tsx';
import { Section } from '../../ui/base/Section.tsx';

/** Which side goes down, how fine it can be cut, and what to watch. */
export function SideToCheck({
  vinyl,
  behaviour,
  bench,
  notes,
  answer,
  colour,
  small,
}: {
  vinyl: Vinyl;
  behaviour: Behaviour;
  bench: { weeding: WeedReading | undefined };
  /** What this person noted of it in their jobs, the newest first. */
  notes: readonly { step: string; says: string; at: string }[];
  answer: FormAnswer | undefined;
  colour: string | undefined;
  small: (um: number) => string;
}) {
  const t = words.vinyl;
  // What its type goes by is a guess of ours; what somebody said of it is not.
  const type = behaviourOf(vinyl.type);
  const isGuess = behaviour.minFeatureUm === type.minFeatureUm && behaviour.minGapUm === type.minGapUm;
  return (
    <Section id="check" title={t.check}>
      <SideDrawing hex={vinylHex(vinyl)} side={behaviour.side} />
      <p className="above-16">
        <strong>{words.side[behaviour.side].says}</strong>{' '}
        {words.carrier[behaviour.carrier] && `${words.carrier[behaviour.carrier]}. `}
        {words.side[behaviour.side].sure}
      </p>
      <p className="above-12">
        <strong>{t.before}</strong> {t.beforeWhy}
      </p>
      <p className="above-12">
        <strong>{t.watch}</strong> {behaviour.tips[0]!.says}
      </p>
      <p className="quiet above-8">
        {(isGuess ? t.leastGuess : t.least)(small(behaviour.minFeatureUm), small(behaviour.minGapUm))}
        {behaviour.growthUm > 0 && ` ${t.growth(small(behaviour.growthUm))}`}
        {behaviour.leadUm > 0 && ` ${t.lead(small(behaviour.leadUm))}`}
        {behaviour.minLengthUm > 0 && ` ${t.short(small(behaviour.minLengthUm))}`}
      </p>
      {bench.weeding && (
        <p className="above-8" data-testid="weeding">
          {words.weeding.reading(bench.weeding.n, bench.weeding.ease.toFixed(1))}{' '}
          {words.weeding.holds(small(bench.weeding.leastLineUm), small(bench.weeding.leastGapUm))}{' '}
          {bench.weeding.torn > 0 && words.weeding.tornTimes(bench.weeding.torn, bench.weeding.n)}
        </p>
      )}
      {behaviour.tips.slice(1).map((tip) => (
        <p key={tip.key} className="quiet above-8">
          {tip.says}
        </p>
      ))}
      {vinyl.note && (
        <p className="above-12" data-testid="note">
          <strong>{t.note}</strong> {isolate(vinyl.note)}
        </p>
      )}
      <OwnNotes notes={notes} answer={answer} colour={colour} />
    </Section>
  );
}
