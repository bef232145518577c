import { expect, test } from 'vitest';
import { Plate } from './plate.ts';

test('it warms up, holds, falls when it closes, and comes back', () => {
  const plate = new Plate();
  plate.set = 150;
  plate.run(60);
  expect(plate.celsius).toBeLessThan(150);
  plate.run(240);
  expect(plate.celsius).toBeGreaterThan(148);
  expect(plate.celsius).toBeLessThan(151);
  expect(plate.celsius - plate.corner).toBeGreaterThan(5);
  const before = plate.celsius;
  plate.close();
  plate.run(1);
  expect(plate.celsius).toBeLessThan(before - 5);
  plate.run(20);
  plate.open();
  plate.run(30);
  expect(plate.celsius).toBeGreaterThan(before - 2);
});

test('set lower it cools, slowly', () => {
  const plate = new Plate();
  plate.set = 150;
  plate.run(300);
  plate.set = 138;
  plate.run(30);
  expect(plate.celsius).toBeGreaterThan(143);
  plate.run(300);
  expect(plate.celsius).toBeLessThan(139);
});
