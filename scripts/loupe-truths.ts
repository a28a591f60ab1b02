/**
 * `npm run loupe-truths [from count]`: pictures with known truth, drawn and photographed in many ways, through the
 * loupe. For each measure: how many are told, how far off they are, how often the truth lies in the stated range.
 */

import { lookAt, type Measured } from '../src/core/loupe/loupe';
import type { MeasureName } from '../src/core/loupe/measures';
import { asJpeg } from '../src/core/loupe/testing/jpeg';
import { rankCorrelation } from '../src/core/loupe/testing/ranks';
import * as truths from '../src/core/loupe/testing/truths';
import { mean, quantile } from '../src/core/numbers';
import { seeded } from '../src/core/random';
import { benchFor, makeOn } from '../src/core/testing';

const print = (line: string) => process.stdout.write(`${line}\n`);
const [from = '5001', count = '12', only] = process.argv.slice(2);
const verbose = process.env.VERBOSE !== undefined;

const made = (kind: string) => makeOn(benchFor('heron'), kind).plan;
const [tower, walls] = [made('temperature'), made('acceleration')];

/** Every way to make a picture, and by what its error is told: a share of the truth, or mm. */
const WAYS: Record<
  string,
  { name: MeasureName; by: 'share' | 'own'; make: (seed: number) => truths.Known }
> = {
  layers: {
    name: 'layer-pitch',
    by: 'share',
    make: (seed) => truths.layered(tower, seed, {}, truths.styleFor(seed)),
  },
  pairs: {
    name: 'line-up',
    by: 'own',
    make: (seed) => truths.vernier(tower, seed, {}, truths.styleFor(seed)),
  },
  echoes: {
    name: 'ghost-spacing',
    by: 'share',
    make: (seed) => truths.echoing(walls, seed, 0.2, {}, truths.styleFor(seed)),
  },
  threads: {
    name: 'threads',
    by: 'own',
    make: (seed) =>
      truths.strung(
        tower,
        seed,
        truths.someThreads(tower, seeded(seed)),
        {},
        truths.styleFor(seed),
      ),
  },
  bulges: {
    name: 'bulge',
    by: 'own',
    make: (seed) => truths.bulging(walls, seed, {}, truths.styleFor(seed)),
  },
  edges: {
    name: 'edge',
    by: 'own',
    make: (seed) => {
      const known = truths.bulging(walls, seed, {}, truths.styleFor(seed));
      return { ...known, truth: known.rough };
    },
  },
  strokes: {
    name: 'width',
    by: 'own',
    make: (seed) => truths.stroked(tower, seed, {}, truths.styleFor(seed)),
  },
  patches: {
    name: 'gaps',
    by: 'own',
    make: (seed) => truths.patched(tower, seed, {}, truths.styleFor(seed)),
  },
};

for (const [way, { name, by, make }] of Object.entries(WAYS)) {
  if (only && way !== only) continue;
  const off: number[] = [];
  const orders: number[] = [];
  let [told, all, holds] = [0, 0, 0];
  for (let seed = Number(from); seed < Number(from) + Number(count); seed++) {
    const { photo, plan, corners, truth } = make(seed);
    const picture = await asJpeg(photo, 75 + Math.floor(20 * seeded(seed)()));
    const { measures, problems } = lookAt(picture, plan, { corners, measures: [name] });
    const good = measures.filter((one) => one.told);
    all += measures.length;
    told += good.length;
    const away = ({ value, rung }: Measured) => value - truth[rung]!;
    const errors = good.map((one) => away(one) / (by === 'share' ? truth[one.rung]! : 1));
    const held = good.filter((one) => Math.abs(away(one)) <= one.spread).length;
    off.push(...errors);
    holds += held;
    if (name === 'threads' && good.length > 2)
      orders.push(
        rankCorrelation(
          good.map(({ value }) => value),
          good.map(({ rung }) => truth[rung]!),
        ),
      );
    if (verbose)
      print(
        `  ${seed} ${JSON.stringify(truths.styleFor(seed))} told ${good.length}/${measures.length} worst ${Math.max(0, ...errors.map(Math.abs)).toFixed(4)} holds ${held} ${orders.at(-1)?.toFixed(2) ?? ''} ${problems.map(({ where }) => where).join()} ${measures.find((one) => !one.told)?.why ?? ''}`,
      );
  }
  const sizes = off.map(Math.abs);
  print(
    `${way} (${name}): ${told} of ${all} told; off by ${mean(sizes).toFixed(4)} on average, ${quantile(sizes, 0.95).toFixed(4)} for 95 of 100, ${Math.max(...sizes).toFixed(4)} at most (${by === 'share' ? 'of the truth' : 'mm or number'}); truth in the range in ${((100 * holds) / told).toFixed(0)} %${orders.length > 0 ? `; order ${mean(orders).toFixed(3)}, ${Math.min(...orders).toFixed(3)} at least` : ''}`,
  );
}
