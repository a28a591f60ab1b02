import { trainOf } from '../core/shake/trains';
import { MACHINES } from '../core/bench/presets';
import { beadArea, filamentFor } from '../core/deposit/bead';
import { benchFor, makeTemperature } from '../core/testing';
import { quality, scored, trueQuality } from './eye';
import { look } from './looks';
import { Heater } from './heater';
import { fluidity, setsAfter } from './plastic';
import { printText } from './print';
import { Ringing } from './ringing';
import { drawTruths, type Truths } from './truths';
import { READY } from './understudies';

const bench = benchFor();
const SEEDS = [1, 2, 3, 4, 5, 6, 7, 8];
const HEAD = 'G28\nM190 S60\nM109 S207\nG90\nM83\n';
const perMm = (width: number, height: number) =>
  filamentFor(1, beadArea(width, height), bench.filament.diameter);
const E = perMm(0.45, 0.2);
const stroke = (x: number, y: number, length: number, feed: number) =>
  `G1 X${x} Y${y} E${(length * E).toFixed(5)} F${feed}\n`;
const all = { z: { from: 0, to: 100 } };

describe('truths', () => {
  test('a seed is a machine: the same again, and another for another seed', () => {
    expect(drawTruths(bench, 5)).toEqual(drawTruths(bench, 5));
    expect(drawTruths(bench, 5).lag).not.toBe(drawTruths(bench, 6).lag);
  });

  test('those that stand ready are what is said of them', () => {
    const [calm, warm, damp, loose] = READY.map(({ seed }) => drawTruths(bench, seed));
    expect(Math.abs(calm!.sensor)).toBeLessThan(1);
    expect(warm!.sensor).toBeGreaterThan(5);
    expect(damp!.stringsFrom).toBeLessThan(damp!.works);
    expect(Math.max(loose!.damping.x, loose!.damping.y)).toBeLessThan(0.06);
  });

  test('the filament of a long tube is slack, that of a direct feeder hardly', () => {
    for (const seed of SEEDS) {
      expect(drawTruths(benchFor('heron'), seed).slack).toBeGreaterThan(1.5);
      expect(drawTruths(benchFor('wren'), seed).slack).toBeLessThan(1);
    }
  });
});

/** Slow, fast, slow along one line, over and over, with pressure advance `k`. */
const paced = (k: number) => {
  let text = `${HEAD}M900 K${k}\nG0 X20 Y20 Z0.2 F9000\nG1 E2 F1200\n`;
  for (let i = 0; i < 6; i++) {
    const y = 20 + 4 * i;
    text += `G0 X20 Y${y} F9000\n`;
    text += stroke(50, y, 30, 1200) + stroke(110, y, 60, 6000) + stroke(140, y, 30, 1200);
  }
  return text;
};

test.each(SEEDS)('seed %p: speed changes show least where advance is the lag', (seed) => {
  const truths = { ...drawTruths(bench, seed), sensor: 0, feeds: 1 };
  const uneven = (k: number) => {
    const printed = printText(paced(k), bench, truths);
    // The middle strokes, away from restarts.
    const { samples } = printed;
    let sum = 0;
    let count = 0;
    for (let n = 0; n < samples.count; n++) {
      if (samples.begun[n]! < 8) continue;
      sum += (samples.ratio[n]! - 1) ** 2;
      count++;
    }
    return Math.sqrt(sum / count);
  };
  // The lag falls with flow and heat: the one that counts lies a little under its slow value.
  const shares = [0, 0.4, 0.6, 0.8, 1, 1.3, 1.8];
  const faults = shares.map((share) => uneven(share * truths.lag));
  const best = shares[faults.indexOf(Math.min(...faults))]!;
  expect(best).toBeGreaterThanOrEqual(0.6);
  expect(best).toBeLessThanOrEqual(1);
  expect(faults[0]).toBeGreaterThan(1.5 * Math.min(...faults));
  expect(faults.at(-1)).toBeGreaterThan(1.5 * Math.min(...faults));
});

/** Two towers with a travel between them on each layer, retracting `distance`. */
const posts = (distance: number, temperature = 195) => {
  let text = HEAD.replace('S207', `S${temperature}`) + 'M106 S255\n';
  for (let layer = 1; layer <= 12; layer++) {
    const z = (0.2 * layer).toFixed(2);
    for (const x of [60, 90]) {
      if (distance > 0) text += `G1 E-${distance} F2400\n`;
      text += `G0 X${x} Y60 Z${z} F9000\n`;
      if (distance > 0) text += `G1 E${distance} F2400\n`;
      text += stroke(x + 8, 60, 8, 1500) + stroke(x + 8, 68, 8, 1500);
      text += stroke(x, 68, 8, 1500) + stroke(x, 60, 8, 1500);
    }
  }
  return text;
};
const stringing = (distance: number, truths: Truths, temperature?: number) =>
  look(printText(posts(distance, temperature), bench, truths), all).stringing!;

test.each(SEEDS)('seed %p: threads end past the slack, and not before', (seed) => {
  const truths = { ...drawTruths(bench, seed), sensor: 0 };
  const cool = Math.min(195, truths.stringsFrom - 14);
  const short = stringing(truths.slack * 0.7, truths, cool);
  const long = stringing(truths.slack + 2.2, truths, cool);
  expect(short).toBeGreaterThan(0.01);
  expect(long).toBeLessThan(0.25 * short);
  // Above its temperature even a well closed nozzle draws threads.
  expect(stringing(truths.slack + 2.2, truths, truths.stringsFrom + 18)).toBeGreaterThan(long);
});

test('a thread needs a gap: after the way to the print, travel over plastic draws none', () => {
  const text = `${HEAD}G0 X60 Y60 Z0.2 F9000\n${stroke(100, 60, 40, 1800)}G0 X60 Y60 F9000\n${stroke(100, 60, 40, 1800)}`;
  expect(printText(text, bench, drawTruths(bench, 2)).threads.slice(1)).toHaveLength(0);
});

describe('ringing', () => {
  test.each([
    [30, 0.05],
    [55, 0.1],
  ])('an axis of %p Hz, damped by %p, rings at its frequency and dies away', (hertz, zeta) => {
    const axis = new Ringing(hertz, zeta);
    axis.jump(20);
    const dt = 1e-4;
    const crossings: number[] = [];
    const peaks: number[] = [];
    let before = 0;
    for (let t = 0; t < 0.4; t += dt) {
      axis.run(0, dt);
      if (before < 0 && axis.x >= 0) crossings.push(t);
      peaks.push(Math.abs(axis.x));
      before = axis.x;
    }
    const period = (crossings.at(-1)! - crossings[0]!) / (crossings.length - 1);
    expect(1 / period).toBeCloseTo(hertz * Math.sqrt(1 - zeta ** 2), 0);
    expect(Math.max(...peaks.slice(-500))).toBeLessThan(0.2 * Math.max(...peaks));
  });

  test('the length of a step does not matter', () => {
    const whole = new Ringing(40, 0.08);
    const fine = new Ringing(40, 0.08);
    whole.jump(10);
    fine.jump(10);
    whole.run(800, 0.02);
    for (let i = 0; i < 200; i++) fine.run(800, 0.0001);
    expect(fine.x).toBeCloseTo(whole.x, 9);
  });

  test('a steady push ends at the deflection a / ω²', () => {
    const axis = new Ringing(40, 0.1);
    axis.run(2000, 5);
    expect(axis.x).toBeCloseTo(-2000 / (2 * Math.PI * 40) ** 2, 9);
  });

  test.each(SEEDS)('seed %p: echoes along a face repeat every v / f', (seed) => {
    const truths = drawTruths(bench, seed);
    const speed = 60;
    const fast = structuredClone(bench);
    fast.machine.limits.acceleration = { x: 8000, y: 8000, z: 100, e: 9000 };
    fast.machine.limits.printAcceleration = 8000;
    fast.machine.limits.cornering = { model: 'jerk', x: 20, y: 20, z: 0.4, e: 20 };
    const text = `${HEAD}G0 X40 Y40 Z0.2 F9000\n${stroke(40, 90, 50, speed * 60)}${stroke(140, 90, 100, speed * 60)}`;
    const { samples } = printText(text, fast, truths);
    // Along x after the corner the head swings in y.
    const at: number[] = [];
    for (let n = 1; n < samples.count; n++) {
      if (samples.move[n] !== samples.move[samples.count - 1] || samples.since[n]! < 6) continue;
      const [a, b] = [samples.swing[n - 1]!, samples.swing[n]!];
      if (a < 0 && b >= 0) at.push(samples.x[n - 1]! + (0.25 * -a) / (b - a));
    }
    const seen = at.slice(0, 12);
    const spacing = (seen.at(-1)! - seen[0]!) / (seen.length - 1);
    const damped = truths.resonance.y * Math.sqrt(1 - truths.damping.y ** 2);
    expect(Math.abs(spacing / (speed / damped) - 1)).toBeLessThan(0.02);
    expect(Math.max(...seen.map((x) => x))).toBeGreaterThan(46);
  });

  test('a print behind the shaper of an axis swings less in it, and not in the other', () => {
    const wren = benchFor('wren');
    const truths = drawTruths(wren, 12);
    const swing = (line: string) => {
      const { samples } = printText(
        `${HEAD}SET_VELOCITY_LIMIT ACCEL=3000\n${line}\nG0 X20 Y60 Z0.2 F9000\n` +
          'G1 X120 E3 F9000\nG1 Y140 E3 F1200',
        wren,
        truths,
      );
      let most = 0;
      for (let n = 0; n < samples.count; n++)
        // On the face after the corner.
        if (samples.y[n]! > 61) most = Math.max(most, Math.abs(samples.swing[n]!));
      return most;
    };
    const hz = truths.resonance.x;
    const set = (axis: string) =>
      `SET_INPUT_SHAPER SHAPER_TYPE_${axis}=zvd SHAPER_FREQ_${axis}=${hz} DAMPING_RATIO_${axis}=${truths.damping.x}`;
    expect(swing(set('X'))).toBeLessThan(0.5 * swing(''));
    expect(swing(set('Y'))).toBeCloseTo(swing(''), 3);
  });

  test('a shaper set to the true frequency takes the ringing away, another one less so', () => {
    const left = (setHz: number) => {
      const axis = new Ringing(40, 0.001);
      axis.jump(30);
      let most = 0;
      for (let n = 0; n < 400; n++) {
        axis.run(0, 5e-4);
        // Once both impulses have come.
        if (n > 60)
          most = Math.max(most, Math.abs(axis.shaped(setHz > 0 ? trainOf('ZV', setHz, 0) : null)));
      }
      return most;
    };
    const whole = left(0);
    expect(left(40)).toBeLessThan(0.02 * whole);
    expect(left(60) / whole).toBeCloseTo(Math.cos((Math.PI / 2) * (40 / 60)), 1);
  });
});

describe('the first layer', () => {
  const patch = (offset: number) => {
    let text = `${HEAD}G0 X60 Y60 Z${(0.2 + offset).toFixed(3)} F9000\nG1 E1 F1200\n`;
    for (let i = 0; i < 30; i++) {
      const y = (60 + i * 0.4071).toFixed(3);
      text += `G0 X${i % 2 ? 80 : 60} Y${y}\nG1 X${i % 2 ? 60 : 80} E${(20 * E).toFixed(5)} F1200\n`;
    }
    return text;
  };
  const level = (seed: number): Truths => ({
    ...drawTruths(bench, seed),
    bed: { offset: 0, tiltX: 0, tiltY: 0 },
    feeds: 1,
  });

  test.each([1, 2, 3])('seed %p: the width of a bead follows the gap', (seed) => {
    const widths = [-0.06, 0, 0.06].map((offset) => {
      const truths = level(seed);
      truths.bed.offset = offset;
      const { samples } = printText(patch(0), bench, truths);
      // Away from both ends of a line.
      const middle = Math.floor(samples.count / 2) + 40;
      return { width: samples.width[middle]!, gap: samples.gap[middle]! };
    });
    widths.forEach(({ width, gap }) =>
      expect(width).toBeCloseTo(beadArea(0.45, 0.2) / gap + gap * (1 - Math.PI / 4), 1),
    );
    expect(widths[0]!.width).toBeGreaterThan(widths[1]!.width);
    expect(widths[2]!.width).toBeLessThan(widths[1]!.width);
  });

  test('a nudge acts from its line on, on top of what the machine has of its own', () => {
    const text = `${HEAD}G1 Z0.2 F600\nG1 X20 Y20 F6000\n${stroke(60, 20, 40, 1200)}M290 Z-0.04\n${stroke(60, 60, 40, 1200)}`;
    const gaps = (raised: number) => {
      const { samples } = printText(text, bench, level(3), { raised });
      const at = (share: number) => samples.gap[Math.round(share * samples.count)]!;
      return [at(0.25), at(0.75)] as const;
    };
    const [before, after] = gaps(0);
    expect(before - after).toBeCloseTo(0.04, 5);
    const higher = gaps(0.05);
    expect(higher[0] - before).toBeCloseTo(0.05, 5);
    expect(higher[1] - after).toBeCloseTo(0.05, 5);
  });

  test('too low leaves ridges, too high leaves gaps', () => {
    const seen = (offset: number) => {
      const truths = level(4);
      truths.bed.offset = offset;
      return look(printText(patch(0), bench, truths), all);
    };
    expect(seen(-0.06).ridges!).toBeGreaterThan(seen(0).ridges! + 0.1);
    expect(seen(0.06).gaps!).toBeGreaterThan(seen(0).gaps! + 0.1);
  });
});

describe('heat', () => {
  test('a heater goes to its target as a first-order system, and a wait waits', () => {
    const heater = new Heater(12);
    heater.target = 200;
    heater.run(12);
    expect(heater.celsius).toBeCloseTo(200 - (200 - 23) / Math.E, 6);
    const seconds = heater.wait();
    expect(seconds).toBeGreaterThan(0);
    expect(Math.abs(heater.celsius - 200)).toBeLessThanOrEqual(1);
    expect(heater.wait()).toBe(0);
  });

  test('a heater that fails ends the print before anything is laid', () => {
    const printed = printText(paced(0), bench, drawTruths(bench, 1), { brokenHeater: true });
    expect(printed.failed).toContain('does not heat');
    expect(printed.samples.count).toBe(0);
  });

  test('hotter melt flows more easily and takes longer to set', () => {
    expect(fluidity(220, 207)).toBeGreaterThan(1.5);
    expect(fluidity(207, 207)).toBe(1);
    expect(setsAfter(220, 60, 1)).toBeGreaterThan(setsAfter(200, 60, 1));
    expect(setsAfter(50, 60, 1)).toBe(0);
  });

  test('a melt limit thins what is asked beyond it, more when it is cold', () => {
    const thick = (temperature: number) => {
      let text = HEAD.replace('S207', `S${temperature}`) + 'G0 X20 Y20 Z0.2 F9000\nG1 E2 F1200\n';
      // 100 mm of a bead of 0.45 × 0.2 at 240 mm/s: 19.6 mm³/s.
      text += stroke(120, 20, 100, 14_400);
      const { samples } = printText(
        text,
        { ...bench, machine: MACHINES.wren },
        drawTruths(bench, 3),
      );
      return samples.ratio[Math.floor(samples.count * 0.7)]!;
    };
    expect(thick(195)).toBeLessThan(0.85);
    expect(thick(230)).toBeGreaterThan(thick(195) + 0.05);
  });
});

describe('a temperature ladder', () => {
  const { text, plan } = makeTemperature({ from: 225, to: 190 });
  const printed = printText(text, bench, drawTruths(bench, 2));
  const seen = plan.rungs.map((rung) => look(printed, rung));

  test('what heat spoils falls with height, what cold spoils rises', () => {
    const ordered = (sizes: number[], sign: 1 | -1) =>
      sizes.slice(1).every((size, i) => sign * (size - sizes[i]!) > 0);
    expect(
      ordered(
        seen.map((one) => one.bridging!),
        -1,
      ),
    ).toBe(true);
    expect(
      ordered(
        seen.map((one) => one.overhang!),
        -1,
      ),
    ).toBe(true);
    expect(
      ordered(
        seen.map((one) => one['layer adhesion']!),
        1,
      ),
    ).toBe(true);
    expect(
      ordered(
        seen.map((one) => one.gloss!),
        1,
      ),
    ).toBe(true);
  });

  test('the sizes are those of real prints', () => {
    for (const one of seen) {
      expect(one.bridging).toBeLessThan(6);
      expect(one.overhang).toBeLessThan(1);
      expect(one.stringing).toBeLessThan(0.3);
      expect(one.corners).toBeLessThan(0.5);
    }
  });

  test('the same file on the same machine is the same print, scored the same by the same eye', () => {
    const again = printText(text, bench, drawTruths(bench, 2));
    expect(again.samples.width).toEqual(printed.samples.width);
    const names = ['stringing', 'layer adhesion'] as const;
    const a = scored(printed, plan.rungs, names, 9);
    expect(scored(again, plan.rungs, names, 9)).toEqual(a);
    expect(scored(again, plan.rungs, names, 10).scores).not.toEqual(a.scores);
  });

  test('quality falls as a fault grows and lies within the scale', () => {
    const sizes = [0, 0.01, 0.05, 0.2, 1, 5];
    const falling = sizes.map((size) => quality('corners', size));
    falling.slice(1).forEach((one, i) => expect(one).toBeLessThan(falling[i]!));
    expect(falling[0]).toBe(4);
    expect(trueQuality(printed, plan.rungs, {})).toEqual(plan.rungs.map(() => 0));
  });
});

test('the second nozzle lays its lines where it really is', () => {
  const otter = benchFor('otter');
  const truths = { ...drawTruths(otter, 3), second: { x: 0.3, y: 0 } };
  const line = (tool: number, x: number) =>
    `T${tool}\nM109 S207\nG0 X${x} Y60 Z0.2 F9000\nG1 X${x} Y90 E1.2 F1200\n`;
  const text = `G28\nG90\nM83\n${line(0, 60)}${line(1, 60)}`;
  expect(look(printText(text, otter, truths), all)['line-up']).toBeCloseTo(0.3, 1);
});
