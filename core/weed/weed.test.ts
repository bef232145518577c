import { describe, expect, test } from 'vitest';
import type { WeedEvent } from '../grades/index.ts';
import { currentWeeds, learntLeast, weedReading, type Weed } from './index.ts';

const weed = (lost: Weed['lost'], ease = 4, torn = false): Weed => ({ cell: 'c', ease, lost, torn });

describe('what weeding tells', () => {
  test('nothing without a word', () => expect(weedReading([])).toBeUndefined());
  test('details that survive keep their size, those that are lost ask for more', () => {
    const reading = weedReading([weed([]), weed(['bar'], 2), weed(['bar', 'hole'], 1, true), weed([], 5)])!;
    expect(reading).toMatchObject({ n: 4, ease: 3, torn: 1, leastLineUm: 1_200, leastGapUm: 500 });
    expect(reading.survived.bar).toEqual({ kept: 2, expected: 0.5 });
    expect(weedReading([weed([])])!.leastLineUm).toBe(800);
  });
  test('a lost detail moves the least line at once, one that held only after three cells', () => {
    const learnt = (...weeds: Weed[]) => learntLeast(weedReading(weeds));
    expect(learnt()).toBeUndefined();
    expect(learnt(weed([]))).toEqual({ cells: 1 });
    expect(learnt(weed(['bar']))).toEqual({ line: 1_200, cells: 1 });
    expect(learnt(weed([]), weed([]), weed([]))).toEqual({ line: 800, gap: 500, cells: 3 });
    expect(learnt(weed(['gap']), weed(['gap']), weed([]))).toEqual({ line: 800, gap: 750, cells: 3 });
  });
  test('figures of other widths: the finest that held, with every wider one; a finer one that was lost says nothing of it', () => {
    const fine = (bar: number, ...lost: Weed['lost']): Weed => ({ ...weed(lost), finest: { bar, gap: 400 } });
    const least = (...weeds: Weed[]) => weedReading(weeds)!.leastLineUm;
    expect(least(fine(600), fine(600), fine(600))).toBe(600);
    expect(least(fine(600, 'bar'), weed([]))).toBe(800);
    expect(least(fine(600, 'bar'))).toBe(900);
    // What is wider was lost: the finer one held by luck.
    expect(least(fine(600), weed(['bar']), weed(['bar']))).toBe(1_200);
    expect(learntLeast(weedReading([fine(600), fine(600), fine(600)]))).toEqual({ line: 600, gap: 400, cells: 3 });
  });
  test('the latest word for a cell counts, whatever the order they came in', () => {
    const event = (id: string, at: string, ease: number): WeedEvent => ({
      id,
      kind: 'weed',
      cell: 'c',
      device: 'd',
      deviceAt: at,
      ease,
      lost: [],
      torn: false,
    });
    const [a, b] = [event('a', '2026-01-01T10:00:00Z', 1), event('b', '2026-01-01T10:01:00Z', 5)];
    for (const list of [
      [a, b],
      [b, a],
      [b, a, b],
    ])
      expect(currentWeeds(list)).toEqual([expect.objectContaining({ ease: 5 })]);
  });
});
