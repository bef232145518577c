import { passesOf, validateSetting, type CutterModel, type Setting } from '#core/controls/index.ts';
import {
  byOccasion,
  gradeBetween,
  isTrialOf,
  outcomeOf,
  recipeOf,
  sayBetween,
  standing,
  type ProofEvidence,
  type StandingResult,
} from '#core/proof/index.ts';
import type { Grade } from '#core/grades/index.ts';
import * as cards from '#store/shelf/cards.ts';
import type { EvidenceRow, Wanted } from '#store/coupons/coupons.ts';
import { db, type Query } from '#store/base/db.ts';
import * as store from '#store/shelf/translations.ts';
import { dayIn, today } from '#work/base/clock.ts';
import { evidenceFor, evidenceRows } from '#work/coupons/evidence.ts';

/**
 * Graded cells that speak for a setting, as evidence for where it stands: trials of it, and of coupons without one what their cells say
 * of the place between them.
 */
function trials(
  model: CutterModel,
  setting: Setting,
  wanted: Wanted,
  rows: readonly EvidenceRow[],
  person: string,
  zone: string,
): ProofEvidence[] {
  const evidence = (r: EvidenceRow, grade: Grade): ProofEvidence & { at: string } => ({
    at: r.at,
    kind: r.kind,
    day: dayIn(zone, r.at),
    person,
    outcome: outcomeOf(grade, wanted),
    ...(r.batch ? { batch: r.batch } : {}),
    // An afternoon's jobs with one blade and one batch are alike.
    ...(r.kind === 'job' ? { occasion: `${dayIn(zone, r.at)} ${r.angle} ${r.batch}` } : {}),
  });
  const occasions = new Map<string, EvidenceRow[]>();
  for (const r of rows) {
    const key = `${r.kind} ${r.at}`;
    occasions.set(key, [...(occasions.get(key) ?? []), r]);
  }
  const seen = [...occasions.values()].flatMap((cells) => {
    const direct = cells.filter((r) => isTrialOf(model, setting, r));
    if (direct.length > 0) return direct.map((r) => evidence(r, r.grade));
    const grade = gradeBetween(model, setting, wanted, cells);
    const between = grade && sayBetween(model, setting, cells);
    return grade ? [{ ...evidence(cells[0]!, grade), ...(between ? { between } : {}) }] : [];
  });
  // Cells of one coupon lie beside each other and are cuts of their own; ordinary cuts noted within minutes are one.
  const coupons = seen.filter((e) => e.kind === 'coupon').map(({ at: _, ...e }): ProofEvidence => e);
  return [...coupons, ...byOccasion(seen.filter((e) => e.kind !== 'coupon'))];
}

/** Where the numbers kept for a vinyl on a cutter stand now. Kept with them, for lists to read. */
export async function refreshProofs(personId: string, zone: string, vinylId: string, cutterId: string): Promise<void> {
  for (const s of await store.currentSettings(db(), personId, vinylId, cutterId)) {
    const { evidence, events } = await evidenceFor(personId, vinylId, cutterId, s.wanted, { base: s.controls });
    const rows = (await evidenceRows(evidence, events)).filter((r) => s.colour === null || r.colour === s.colour);
    await store.setProof(db(), s.id, proofOf(evidence.model, s.controls, s.wanted, rows, personId, zone));
  }
}

/** Where a setting stands by graded cells of one person. */
export function proofOf(
  model: CutterModel,
  setting: Setting,
  wanted: Wanted,
  rows: readonly EvidenceRow[],
  person: string,
  zone: string,
): StandingResult {
  const evidence = trials(model, setting, wanted, rows, person, zone);
  return standing({ format: 'versipel-standing/1', on: today(), evidence, beside: rows.length });
}

/**
 * Where a card stands: its author's trials of the setting it shares, and what others found with it on the same model. Cuts with an earlier
 * version whose setting was another are told apart. What was cut on another model was cut at a number of ours: it speaks for or against the
 * translation, which learns from it (`sharedCuts`), and neither for nor against the author.
 */
export async function refreshCardStanding(q: Query, cardId: string): Promise<StandingResult | undefined> {
  const card = await cards.cardById(q, cardId, null);
  if (!card) return undefined;
  const { model, controls, evidence, zone = card.zone } = card.content;
  const recipe = recipeOf(controls);
  const versions = new Map((await cards.controlsOfVersions(q, cardId)).map((v) => [v.number, v.controls]));
  // Nobody speaks for their own card, nor by way of a file that only they brought in.
  const others = (await cards.foundWith(q, cardId)).filter(
    (f) =>
      f.person_id !== card.person_id && !(f.hearsay && f.voice === card.person_id) && f.setting.model === model.key,
  );
  const mine = trials(model, controls, card.wanted, evidence, card.voice, zone);
  // What somebody brought in whom nobody vouches for is, all of it together, as good as one cut made here: a file holds any crowd.
  const heard = new Map<string, number>();
  const hear = (of: cards.FromElsewhere) => heard.set(of.voice, (heard.get(of.voice) ?? 0) + 1);
  if (card.hearsay) mine.forEach(() => hear(card));
  for (const f of others) if (f.hearsay) hear(f);
  const weight = (of: cards.FromElsewhere) => (of.hearsay ? Math.min(of.weight, 1 / heard.get(of.voice)!) : of.weight);
  const own = mine.map((e) => ({ ...e, recipe, weight: weight(card) }));
  const reports = others.map((f): ProofEvidence & { at: string } => {
    const used = versions.get(f.version) ?? controls;
    const same = near(model, controls, used);
    return {
      at: f.made_at.toISOString(),
      kind: 'confirmation',
      day: dayIn(f.zone, f.made_at),
      person: f.voice,
      weight: weight(f),
      outcome: f.outcome ?? outcomeOf(f.grade, card.wanted),
      recipe: same ? recipe : recipeOf(used),
      ...(f.batch ? { batch: f.batch } : {}),
    };
  });
  const proof = standing({
    format: 'versipel-standing/1',
    on: today(),
    evidence: [...own, ...byOccasion(reports)],
    recipe,
    beside: evidence.length,
  });
  await store.setCardStanding(q, cardId, proof, today());
  return proof;
}

function near(model: CutterModel, a: Setting, b: Setting): boolean {
  try {
    validateSetting(model, b);
  } catch {
    return false;
  }
  return isTrialOf(model, a, { setting: b, passes: passesOf(model, b) });
}

/** Task: says where kept numbers stand that nobody has said it of. Answers how many vinyls were looked at. */
export async function proveKept(limit = 100): Promise<number> {
  const due = await store.unproven(db(), limit);
  for (const d of due) await refreshProofs(d.person_id, d.zone, d.vinyl_id, d.cutter_id);
  return due.length;
}

/** Task: evidence fades, so standings of yesterday are asked again. */
export async function refreshFaded(limit = 100): Promise<number> {
  const due = await store.fadedStandings(db(), today(), limit);
  for (const { card_id } of due) await refreshCardStanding(db(), card_id);
  return due.length;
}
