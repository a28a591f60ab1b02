import { kindOf } from '../core/ladders/registry';
import { benchFor, good } from '../core/testing';
import { mean } from '../core/numbers';
import { eyeAndLoupe } from './eye-and-loupe';

/** How far off the truth the findings of some hidden machines are, in steps. */
function offBy(id: string, seeds: readonly number[]) {
  const bench = benchFor('heron');
  if (id === 'nozzle-alignment') bench.machine.extruder.tools = 2;
  const trials = seeds.map((seed) => good(eyeAndLoupe(good(kindOf(id)), bench, seed)));
  const off = (which: 'eye' | 'both') =>
    mean(
      trials.map(({ truth, step, ...one }) => Math.abs(one[which].values[0].value! - truth) / step),
    );
  return { eye: off('eye'), both: off('both') };
}

test('lines of two nozzles are found nearer to the truth with the loupe than by eye alone', () => {
  const { eye, both } = offBy('nozzle-alignment', [9001, 9002, 9005]);
  expect(both).toBeLessThan(0.6 * eye);
});

test('so is pressure advance, where strokes are thick and thin', () => {
  const { eye, both } = offBy('advance-hairpins', [9001, 9003]);
  expect(both).toBeLessThan(eye);
});
