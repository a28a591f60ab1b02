import { benchFor, good } from '../testing';
import { costsOf } from './costs';
import { specFor } from './make';
import { kindOf } from './registry';

const bench = benchFor();
const specOf = (id: string, given = {}) =>
  good(specFor(good(kindOf(id)), bench, given)) as Record<string, number>;

test('each input is told by what it adds to a rung, the dearest first', () => {
  const { each, perRung, rungs, offer } = costsOf('overhang', specOf('overhang'), bench)!;
  expect(rungs).toBe(8);
  expect(perRung).toBeGreaterThan(0.5);
  const walls = each.find(({ key }) => key === 'walls')!;
  expect(walls.by).toBe(1);
  expect(walls.minutes).toBeGreaterThan(0);
  const sizes = each.map(({ minutes }) => Math.abs(minutes));
  expect(sizes).toEqual([...sizes].sort((a, b) => b - a));
  // A short ladder has nothing to offer.
  expect(offer).toBeNull();
});

long('a long ladder is offered the change that saves most, and it saves as much as it says', () => {
  const spec = specOf('temperature', { rungHeight: 12 });
  const { offer, perRung, rungs } = costsOf('temperature', spec, bench)!;
  const after = costsOf('temperature', { ...spec, ...offer!.patch }, bench)!;
  expect(perRung * rungs - after.perRung * after.rungs).toBeCloseTo(offer!.saves, 1);
  // What prints are made with is not bent to save time.
  expect(Object.keys(offer!.patch)).not.toContain('layerHeight');
  expect(Object.keys(offer!.patch)).not.toContain('speed');
});

test('where nothing climbs, or nothing can be made, there is nothing to tell', () => {
  expect(costsOf('flow', specOf('flow'), bench)).toBeNull();
  expect(costsOf('temperature', { ...specOf('temperature'), to: 100 }, bench)).toBeNull();
  expect(costsOf('nothing', {}, bench)).toBeNull();
});
