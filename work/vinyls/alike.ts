import { nameLikeness, sameName } from '#core/vinyls/index.ts';
import type { Person } from '#work/people/person.ts';
import { foundIds, namedVinyls, type Named } from './vinyls.ts';

export const fullName = (v: { brand: string; name: string }) => [v.brand, v.name].filter(Boolean).join(' ');

/** Vinyls whose name is so like another that they may be the same, the likest first. */
export async function alikeVinyls(person: Person | undefined, name: string, except?: string): Promise<Named[]> {
  if (name.trim().length < 3) return [];
  const ids = (await foundIds(person, name, 12, true)).filter((id) => id !== except);
  const rows = await namedVinyls(person, ids);
  return rows
    .filter((v) => sameName(name, fullName(v)) || sameName(name, v.name))
    .sort((a, b) => nameLikeness(name, fullName(b)) - nameLikeness(name, fullName(a)))
    .slice(0, 3);
}
