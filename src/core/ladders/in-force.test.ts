/** What was found before holds while another setting climbs, is proven, and is put back; what nobody found is left alone. */

import type { Values } from '../bench/settings';
import { askedFor } from '../gcode/asked';
import { audit } from '../gcode/audit';
import { readText } from '../gcode/read';
import { benchFor, makeOn } from '../testing';

const tunedBench = (tuned: Values) => ({ ...benchFor(), tuned });

test('a ladder is printed with the pressure advance and cornering that were found', () => {
  const made = makeOn(tunedBench({ advance: 0.45, jerk: 6, acceleration: 800 }), 'retraction');
  const lines = made.text.split('\n');
  const begin = lines.indexOf('; begin');
  const at = (line: string) => lines.indexOf(line);
  for (const line of ['M900 K0.45', 'M205 X6 Y6', 'M220 S100', 'M221 S100']) {
    expect(at(line)).toBeGreaterThan(begin);
    expect(at(line)).toBeLessThan(at(lines.find((one) => one.startsWith('; layer 1,'))!));
  }
  expect(made.plan.held).toMatchObject({ advance: 0.45, jerk: 6, acceleration: 800 });
  // Every rung is proven to print with them.
  for (const setting of ['advance', 'jerk', 'acceleration']) {
    const rows = made.audit.rungs.filter((row) => row.setting === setting);
    expect(rows).toHaveLength(made.plan.rungs.length);
    expect(rows.every(({ ok }) => ok)).toBe(true);
  }
  // They stand already: nothing needs to be put back.
  expect(lines.filter((line) => /^M900 /.test(line))).toEqual(['M900 K0.45']);
  expect(made.audit.findings).toEqual([]);
});

test('another value in the file than what was found is noticed', () => {
  const bench = tunedBench({ advance: 0.45 });
  const { text, plan } = makeOn(bench, 'retraction');
  const bent = readText(text.replace('M900 K0.45', 'M900 K0.1'), bench.machine);
  const stops = audit(bent, bench, askedFor(plan)).findings.filter(({ grade }) => grade === 'stop');
  expect(stops).toHaveLength(plan.rungs.length);
  expect(stops[0]!.what).toContain('pressure advance 0.45');
});

test('a pressure advance that nobody has measured is not set, and never left at its last rung', () => {
  const plain = makeOn(benchFor(), 'retraction');
  expect(plain.text).not.toMatch(/^M900/m);
  expect(plain.plan.held).not.toHaveProperty('advance');

  const climbing = makeOn(benchFor(), 'advance-meander');
  const end = climbing.text.slice(climbing.text.indexOf('; restore'));
  expect(end.match(/^M900.*$/gm)).toEqual(['M900 K0']);
  expect(climbing.audit.findings).toEqual([
    expect.objectContaining({ code: 'not-put-back-advance', grade: 'note' }),
  ]);
  expect(climbing.audit.findings[0]!.what).toContain('is off after the print');

  // Where it was found, or where the machine says what it has, it is put back.
  for (const bench of [
    tunedBench({ advance: 0.45 }),
    { ...benchFor(), machine: { ...benchFor().machine, advance: 0.45 } },
  ]) {
    const { text, audit } = makeOn(bench, 'advance-meander');
    expect(text.slice(text.indexOf('; restore'))).toMatch(/^M900 K0\.45$/m);
    expect(audit.findings).toEqual([]);
  }
});
