import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { root } from '../testDatabase.ts';

const core = (verb: string, input: string) =>
  spawnSync(join(root, 'bin/core'), verb ? [verb] : [], { input, encoding: 'utf8' });
const example = (verb: string) => readFileSync(join(root, `docs/schemas/${verb}.example.json`), 'utf8');

describe('bin/core', () => {
  test.each([
    'fit',
    'plan',
    'coupon',
    'controls',
    'read-hpgl',
    'standing',
    'translate',
    'shelf',
    'artwork',
    'place',
    'job',
  ])('%s answers its example with JSON', (verb) => {
    const { status, stdout, stderr } = core(verb, example(verb));
    expect(stderr).toBe('');
    expect(status).toBe(0);
    const answer = JSON.parse(stdout) as Record<string, unknown>;
    expect(answer.format).toMatch(/^versipel-/);
    expect(JSON.parse(readFileSync(join(root, `docs/schemas/${verb}.schema.json`), 'utf8'))).toHaveProperty(
      'properties',
    );
  });
  test.each([
    ['fit', '', 'the input is not JSON'],
    ['fit', '{"format": "versipel-fit/1"', 'the input is not JSON'],
    ['fit', '[]', 'expected object'],
    ['plan', example('plan').replace('"count": 6', '"count": 99'), 'count: '],
    [
      'fit',
      example('fit').replace('"strength": 90', '"strength": 9'),
      'cells[0].strength: position 9 is outside force 10 to 400',
    ],
    ['fit', example('fit').replace('"grade": "clean"', '"grade": "3"'), 'cells[2].figures[0].grades[0].grade: '],
    [
      'coupon',
      example('coupon').replace('"force": 192', '"force": 900'),
      'force 900 is outside this cutter: 10 to 400',
    ],
    ['coupon', example('coupon').replace('"speed": 4', '"tempo": 4'), 'speed is missing'],
    [
      'controls',
      example('controls').replace('glitter film, more pressure', 'velvet'),
      'material "velvet" is outside this cutter: window cling, thin film',
    ],
    ['controls', example('controls').replace('"2"', '"9"'), 'passes 9 is outside this cutter: 1 to 4'],
    ['read-hpgl', example('read-hpgl').replace('PD400,0', 'PD400'), 'PD has an x without a y'],
    ['artwork', example('artwork').replace('<path', '<image'), 'There are only pixels in this drawing'],
    [
      'artwork',
      example('artwork').replace('"min_feature_mm": 1', '"min_feature_mm": 0'),
      'layers[0].vinyl.min_feature_mm: ',
    ],
    ['artwork', example('artwork').replace('"colour": "#1f3a5f"', '"colour": "red"'), 'the drawing has no colour red'],
    ['artwork', example('artwork').replace(/"layers": [^]*\]/, '"layers": []'), 'vinyl: say a vinyl'],
    ['place', example('place').replace('"shape": "shirt"', '"shape": "kilt"'), 'shape: '],
    ['job', example('job').replace('trim/', 'dance/'), 'events[0].step: '],
    ['job', example('job').replace('"path": "l1"', '"path": ""'), 'plan.layers[0].path: '],
    [
      'translate',
      example('translate').replace('"value": 104', '"value": 0'),
      'observations[0].value: 0 has no logarithm',
    ],
    ['translate', example('translate').replace('"type": "smooth",', ''), 'observations[0]: has no "type"'],
    ['standing', example('standing').replace('"outcome": "failed"', '"outcome": "broken"'), 'evidence[7].outcome: '],
    ['dance', '{}', 'usage: bin/core VERB'],
    ['__proto__', '{}', 'usage: bin/core VERB'],
  ])('%s with bad input: exit 2 and one line that says what and where', (verb, input, says) => {
    const { status, stdout, stderr } = core(verb, input);
    expect(status).toBe(2);
    expect(stdout).toBe('');
    expect(stderr.trimEnd().split('\n')).toHaveLength(1);
    expect(stderr).toContain(says);
  });
  test('controls says any setting of any model, shipped or not, in the cutter’s own words', () => {
    const said = (input: object) => {
      const { status, stdout } = core('controls', JSON.stringify({ format: 'versipel-controls/1', ...input }));
      expect(status).toBe(0);
      return (JSON.parse(stdout) as { said: string }).said;
    };
    expect(said({ model: { key: 'whin-duo' }, steps: { blade: 4, speed: 2, pressure: 3 } })).toBe(
      'pressure +3, blade 4, speed 2',
    );
    const own = {
      key: 'mine',
      version: 1,
      name: 'Mine',
      axes: [{ kind: 'dial', key: 'd', word: 'knob', role: 'strength', stops: ['low', 'mid', 'high'], halves: true }],
    };
    expect(said({ model: own, typed: { d: 'between low and mid' } })).toBe('knob between low and mid');
    const { status, stderr } = core(
      'controls',
      JSON.stringify({ format: 'versipel-controls/1', model: own, steps: { d: 9 } }),
    );
    expect([status, stderr.trim()]).toEqual([2, 'core: knob 9 is outside this cutter: low to high in half stops']);
  });
});
