import { describe, expect, it } from 'vitest';
import { seededRandom } from '../stats/index.ts';
import { pressQueue, type QueueStep } from './pressQueue.ts';

const step = (piece: number, press: number, more: Partial<QueueStep> = {}): QueueStep => ({
  id: `press/${piece}-${press}`,
  piece,
  press,
  heat: 150_000,
  seconds: 15,
  wait: 45,
  open: true,
  ready: press === 0,
  closedAt: undefined,
  part: 1,
  openedAt: undefined,
  ...more,
});
const AT = 1_000_000;

describe('the next thing to touch at the press', () => {
  it('asks for the heat first, then takes the first piece', () => {
    const steps = [step(0, 0), step(1, 0)];
    expect(pressQueue(steps, undefined, AT).turn).toMatchObject({ do: 'heat', heat: 150_000, from: undefined });
    expect(pressQueue(steps, 150_000, AT).turn).toMatchObject({ do: 'load', step: { piece: 0 } });
  });
  it('while a piece is pressed it is opened when it is time; what has cooled earlier comes before', () => {
    const pressed = step(1, 0, { closedAt: AT });
    const cooling = (openedAt: number) => step(0, 0, { closedAt: AT - 90_000, openedAt });
    expect(pressQueue([cooling(AT - 20_000), pressed], 150_000, AT).turn).toMatchObject({
      do: 'open',
      due: AT + 15_000,
    });
    expect(pressQueue([cooling(AT - 40_000), pressed], 150_000, AT).turn).toMatchObject({
      do: 'peel',
      due: AT + 5_000,
    });
  });
  it('a press that is free takes the next piece while others cool; what is due is touched first', () => {
    const steps = [step(0, 0, { closedAt: AT - 60_000, openedAt: AT - 30_000 }), step(1, 0)];
    expect(pressQueue(steps, 150_000, AT)).toMatchObject({
      turn: { do: 'load', step: { piece: 1 } },
      others: [{ due: AT + 15_000 }],
    });
    expect(pressQueue(steps, 150_000, AT + 15_000).turn).toMatchObject({ do: 'peel', step: { piece: 0 } });
  });
  it('keeps its heat while something that cools will want it, and changes it after', () => {
    const cools = step(0, 0, { closedAt: AT - 60_000, openedAt: AT });
    const after = step(0, 1, { ready: false });
    const other = step(1, 1, { ready: true, heat: 138_000 });
    expect(pressQueue([cools, after, other], 150_000, AT).turn).toMatchObject({ do: 'peel', step: { piece: 0 } });
    expect(pressQueue([cools, other], 150_000, AT).turn).toMatchObject({ do: 'heat', heat: 138_000, from: 150_000 });
  });
  it('says when nothing can be pressed yet, and when all is done', () => {
    expect(pressQueue([step(0, 0, { ready: false })], 150_000, AT).turn).toEqual({ do: 'elsewhere' });
    expect(pressQueue([step(0, 0, { open: false })], 150_000, AT).turn).toEqual({ do: 'done' });
  });
});

describe('a batch through the queue, hands as quick as the clock', () => {
  it('every piece takes every step in order, one at a time in the press, cooled before it is touched, with few changes of heat', () => {
    const random = seededRandom(12);
    const pick = (n: number) => Math.floor(random.uniform() * n);
    for (let run = 0; run < 60; run++) {
      const kinds = Array.from({ length: 1 + pick(4) }, () => ({
        heat: [138_000, 150_000][pick(2)]!,
        seconds: 5 + pick(20),
        wait: [0, 10, 45, 90][pick(4)]!,
      }));
      const pieces = 1 + pick(12);
      const steps = Array.from({ length: pieces }, (_, p) =>
        kinds.map((k, i) => step(p, i, { ...k, ready: i === 0 })),
      ).flat();
      let now = AT;
      let plate: number | undefined;
      let changes = 0;
      let shut: number | undefined;
      for (let tick = 0; ; tick++) {
        expect(tick).toBeLessThan(2_000);
        const { turn, others } = pressQueue(steps, plate, now);
        if (turn.do === 'done') break;
        if (turn.do === 'elsewhere') throw new Error('nothing to do though pieces are left');
        const s = steps.find((x) => x.id === turn.step.id)!;
        if (turn.do === 'heat') {
          plate = turn.heat;
          changes++;
        } else if (turn.do === 'load') {
          expect(shut).toBeUndefined();
          expect(s.ready && s.heat === plate).toBe(true);
          s.closedAt = now;
          shut = now;
        } else {
          // Nothing else is due before it.
          for (const o of others) expect(o.due).toBeGreaterThanOrEqual(turn.due);
          now = Math.max(now, turn.due);
          if (turn.do === 'open') {
            expect(now - s.closedAt!).toBeGreaterThanOrEqual(s.seconds! * 1000);
            s.openedAt = now;
            shut = undefined;
          } else {
            expect(now - s.openedAt!).toBeGreaterThanOrEqual(s.wait * 1000);
            s.open = false;
            const next = steps.find((x) => x.piece === s.piece && x.press === s.press + 1);
            if (next) next.ready = true;
          }
        }
      }
      expect(steps.every((s) => !s.open)).toBe(true);
      // A change for each stretch of one heat among the kinds, however many pieces.
      const stretches = kinds.filter((k, i) => k.heat !== kinds[i - 1]?.heat).length;
      expect(changes).toBeLessThanOrEqual(stretches);
    }
  });
});
