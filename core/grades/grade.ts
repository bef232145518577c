/** The five grades of a cut, from too little to too much. Always written as words. */
export const gradeWords = ['uncut', 'hangs', 'clean', 'scored', 'through'] as const;
export type Grade = (typeof gradeWords)[number];

/** Order of a grade, 0 (uncut) to 4 (through). For the likelihood only; never stored. */
export const gradeIndex: Record<Grade, number> = { uncut: 0, hangs: 1, clean: 2, scored: 3, through: 4 };
