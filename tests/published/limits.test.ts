import { v4 as uuidv4, v7 as uuidv7 } from 'uuid';
import { expect, test } from 'vitest';
import { artworkLimits, letteringLimits } from '#core/artwork/index.ts';
import { jobEventSchema, jobLimits, planSchema, shownPresses } from '#core/job/index.ts';
import { packLimits } from '#core/pack/index.ts';
import { tableLimits } from '#core/tables/index.ts';
import { MAX_EVENTS } from '#work/people/delivery.ts';
import { quotas } from '#work/base/quotas.ts';
import { roomFor } from '#app/server/requestGuard.server.ts';

// Limits that meet: what one part lets through the next one takes. [what, the first, the one behind it]
test.each([
  ['colours of a drawing, layers of a job', artworkLimits.layers, jobLimits.layers],
  ['bytes of a drawing, of what is sent to /jobs/art', artworkLimits.bytes, roomFor('/jobs/art').bytes],
  ['bytes of a drawing, of what is sent to /check', artworkLimits.bytes, roomFor('/check').bytes],
  ['bytes of a table, of what is sent to /vinyls/import', tableLimits.bytes, roomFor('/vinyls/import').bytes],
  ['bytes of a pack, of what is sent to /packs', packLimits.bytes, roomFor('/packs').bytes],
  ['bytes of one delivery, of an hour of an address', quotas.body.events, quotas.perHourOfAddress.bytes],
  ['events of a delivery, of a minute', MAX_EVENTS, quotas.events.perMinute],
  ['events of a person, of an address', quotas.events.perMinute, quotas.events.perMinuteOfAddress],
  ['seconds of a drawing, of a form', quotas.threads.drawing, quotas.threads.request],
  ['seconds of a form, of an asker in a minute', quotas.threads.request, quotas.threads.perMinute.asker],
  ['seconds of an asker, of an address', quotas.threads.perMinute.asker, quotas.threads.perMinute.address],
  ['connections of an address, of all', quotas.connections.ofAddress, quotas.connections.all],
  ['dashes of a drawing, its points', artworkLimits.dashes, artworkLimits.points],
  ['length of a drawing, of its text with entities', artworkLimits.bytes, artworkLimits.expanded],
])('%s: %d fits into %d', (_, first, behind) => expect(first).toBeLessThanOrEqual(behind));

test('a plan takes as many layers as a drawing may have colours, and as long a name as may be lettered', () => {
  const shape = planSchema.shape;
  expect(
    shape.layers.safeParse(Array.from({ length: artworkLimits.layers + 1 }, () => ({}))).error?.issues,
  ).toContainEqual(expect.objectContaining({ code: 'too_big', maximum: artworkLimits.layers }));
  expect(letteringLimits.letters).toBeGreaterThan(0);
});

test('an outcome carries the presses of the largest plan there may be, and fits into a delivery', () => {
  const layers = Array.from({ length: jobLimits.layers }, () => uuidv4());
  // Every film by itself with four presses that follow, then all of them at once, as the steps are named.
  const step = {
    does: 'layer',
    purpose: 'full',
    heat: 160_000,
    seconds: 30,
    pressure: 'medium',
    peel: 'warm',
  } as const;
  const whole = { ...step, kind: 'press', by: 'proven by others', ask: undefined } as const;
  const presses = [
    ...layers.flatMap((id) => [0, 1, 2, 3, 4, 5].map((n) => ({ ...whole, what: `layer ${id} ${n}`, layers: [id] }))),
    ...Array.from({ length: 20 }, (_, n) => ({ ...whole, what: `layer ${layers.join(' ')} ${n}`, layers })),
  ];
  const event = {
    id: uuidv7(),
    job: uuidv4(),
    step: `press/${uuidv4()}`,
    attempt: 1,
    rev: 1,
    device: uuidv4(),
    deviceAt: new Date().toISOString(),
    kind: 'outcome',
    pieces: [uuidv4()],
    word: 'bonded',
    recipe: '',
    presses: shownPresses(presses),
  };
  expect(jobEventSchema.safeParse(event).error?.issues).toBeUndefined();
  expect(JSON.stringify({ events: [event] }).length).toBeLessThanOrEqual(quotas.body.events);
});
