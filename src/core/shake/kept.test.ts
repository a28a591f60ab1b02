import fc from 'fast-check';
import { foreseen, fromEchoes, KeptShake, peakRange, pickedFrom, proposedFor } from './kept';
import { LIMITS } from './propose';
import { residual, rounding, trainOf } from './trains';

const shake = (
  hz: number,
  damping = 0.06,
  more: { hz: number; gain: number }[] = [],
): KeptShake => ({
  ...fromEchoes(hz, 0.5),
  peaks: [
    { hz, damping, share: 1, width: 2 * damping * hz, gain: 1, of: 'axis' },
    ...more.map((one) => ({ damping, share: 0.2, width: 5, of: 'axis' as const, ...one })),
  ],
});

test('what is proposed keeps both limits, and allows the most of all that do', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 20, max: 90, noNaN: true }),
      fc.double({ min: 0.02, max: 0.15, noNaN: true }),
      fc.double({ min: 0.004, max: 0.05, noNaN: true }),
      fc.double({ min: 0.03, max: 0.5, noNaN: true }),
      (hz, damping, echo, cut) => {
        const { shapers, proposal } = proposedFor([shake(hz, damping)], {
          limits: { echo, rounding: cut },
        })!;
        for (const one of shapers) {
          const train = trainOf(one.type, one.hz, damping);
          const left = (one.acceleration / (2 * Math.PI * hz) ** 2) * residual(train, hz, damping);
          expect(left).toBeLessThanOrEqual(echo * 1.0001);
          expect(rounding(train, one.acceleration)).toBeLessThanOrEqual(cut * 1.0001);
          expect(one.acceleration).toBeLessThanOrEqual(shapers[0]!.acceleration);
        }
        expect(proposal.plain).toBe(Math.floor(echo * (2 * Math.PI * hz) ** 2));
      },
    ),
    { seed: 7, numRuns: 25 },
  );
});

test('one shaper for both axes serves the worse of them; no machine is driven beyond its own', () => {
  const [x, y] = [shake(52), shake(38)];
  const both = proposedFor([x, y], { kinds: ['EI'] })!.proposal;
  const alone = [x, y].map((one) => proposedFor([one], { kinds: ['EI'] })!.proposal.acceleration);
  expect(both.acceleration).toBeLessThanOrEqual(Math.min(...alone));
  const shaping = { type: both.type!, hz: both.hz!, damping: both.damping! };
  for (const one of [x, y])
    expect(foreseen([{ shake: one, shaping }])!).toBeGreaterThanOrEqual(both.acceleration - 1);
  expect(proposedFor([x], { machine: 1500 })!.proposal.acceleration).toBe(1500);
});

test('what rattles beside the axis counts for nothing', () => {
  const quiet = shake(45);
  const loud: KeptShake = {
    ...quiet,
    peaks: [...quiet.peaks, { hz: 96, damping: 0.01, share: 0.5, width: 1, gain: 2, of: 'panel' }],
  };
  expect(proposedFor([loud])!.proposal).toEqual(proposedFor([quiet])!.proposal);
  expect(proposedFor([{ ...quiet, peaks: [{ ...quiet.peaks[0]!, of: 'steady' }] }])).toBeNull();
});

test('echoes are a peak with its uncertainty', () => {
  const kept = KeptShake.parse(fromEchoes(40, 1.5));
  const { proposal, range } = proposedFor([kept])!;
  expect(proposal.plain).toBe(Math.floor(LIMITS.echo * (2 * Math.PI * 40) ** 2));
  expect(range![0]).toBeLessThan(range![1]);
  // The surer the frequency, the narrower the range.
  const sure = proposedFor([fromEchoes(40, 0.1)])!.range!;
  expect(sure[1] - sure[0]).toBeLessThan(range![1] - range![0]);
});

test('another kind is taken as it was worked out, and no harder than the machine goes', () => {
  const proposed = proposedFor([shake(45, 0.04)], { machine: 3000 })!;
  const ei = proposed.shapers.find(({ type }) => type === 'EI')!;
  const picked = pickedFrom(proposed, 'EI', 3000)!;
  expect(picked).toEqual({
    shaping: { type: 'EI', hz: ei.hz, damping: 0.04 },
    acceleration: Math.min(3000, ei.acceleration),
  });
  expect(pickedFrom(proposed, null, 3000)!.shaping!.type).toBe(proposed.proposal.type);
  // Without need of one, none is taken; yet somebody may choose one, made for what rings.
  const stiff = proposedFor([shake(110, 0.03)], { machine: 2000 })!;
  expect(pickedFrom(stiff, null, 2000)).toEqual({ shaping: null, acceleration: 2000 });
  expect(pickedFrom(stiff, 'ZV', 2000)!.shaping).toMatchObject({ type: 'ZV', damping: 0.03 });
});

test('of a machine that is to be mended first nothing is taken, unless somebody chooses it', () => {
  const loose = proposedFor([shake(11, 0.06, [{ hz: 27, gain: 1 }])])!;
  expect(loose.proposal.answer).toBe('mend');
  expect(pickedFrom(loose, null)).toBeNull();
  expect(pickedFrom(loose, 'EI')!.shaping!.type).toBe('EI');
});

test('the range of the main peak holds it; too few draws tell none', () => {
  const [low, high] = peakRange(fromEchoes(40, 1))!;
  expect(low).toBeLessThan(40);
  expect(high).toBeGreaterThan(40);
  expect(peakRange({ ...fromEchoes(40, 1), drawn: [] })).toBeNull();
});
