/** What is written into moves is proved from moves: a file that was changed on the way must be caught. */

import { askedFor } from '../gcode/asked';
import { makeLadder } from '../ladders/make';
import { benchFor, good } from '../testing';
import { audit } from './audit';
import { readText } from './read';

type Machine = Parameters<typeof benchFor>[0];

/** Rungs that the audit stops at after the lines of one rung were changed. */
function caught(
  kind: string,
  machine: Machine,
  rung: number,
  change: (line: string) => string,
): string[] {
  const made = good(makeLadder(kind, {}, benchFor(machine)));
  const lines = made.text.split('\n');
  const start = lines.findIndex((line) => line.startsWith(`; rung ${rung + 1} of`));
  const own = lines.findLastIndex((line) => line.startsWith(`; rung ${rung + 1} of`));
  const from = Math.max(start, own);
  const end = lines.findIndex((line, i) => i > from && /^; (rung|put back)/.test(line));
  for (let i = from + 1; i < end; i++) lines[i] = change(lines[i]!);
  const { findings, rungs } = audit(
    readText(lines.join('\n'), made.plan.bench.machine),
    made.plan.bench,
    askedFor(made.plan),
  );
  expect(rungs.filter(({ ok }) => !ok).every(({ index }) => Math.abs(index - rung) <= 1)).toBe(
    true,
  );
  return findings.filter(({ grade }) => grade === 'stop').map(({ code }) => code);
}

const scaled = (key: string, by: number) => (line: string) =>
  line.replace(
    new RegExp(`${key}(-?[\\d.]+)`),
    (_, value: string) => `${key}${Number(value) * by}`,
  );

test.each([
  ['first-layer', 'heron', 'zOffset', (line: string) => line.replace(/Z0\.28\b/, 'Z0.3')],
  ['flow-patches', 'heron', 'flow', scaled('E', 1.03)],
  ['retraction', 'newt', 'retraction', (line: string) => line.replace(/^G1 E-(\S+)/, 'G1 E-0.37')],
  [
    'retraction-speed',
    'newt',
    'retractSpeed',
    (line: string) => line.replace(/^(G1 E-\S+) F\d+/, '$1 F777'),
  ],
  [
    'extra-restart',
    'newt',
    'restartExtra',
    (line: string) => line.replace(/^G1 E(\d\S*) /, 'G1 E1.5 '),
  ],
  [
    'restart-speed',
    'newt',
    'restartSpeed',
    (line: string) => line.replace(/^(G1 E\d\S*) F\d+/, '$1 F888'),
  ],
  ['lift', 'newt', 'lift', (line: string) => (/^G0 Z/.test(line) ? '' : line)],
  ['bridge-flow', 'heron', 'bridgeFlow', scaled('E', 1.02)],
  ['bridge-speed', 'heron', 'bridgeSpeed', scaled('F', 1.1)],
  ['bridge-fan', 'heron', 'bridgeFan', (line: string) => line.replace(/^M106 .*/, 'M106 S20')],
  ['advance-hairpins', 'heron', 'advance', (line: string) => line.replace(/^M900 .*/, '')],
  ['acceleration', 'newt', 'acceleration', (line: string) => line.replace(/^M204 .*/, '')],
  ['cornering-jerk', 'newt', 'jerk', (line: string) => line.replace(/^M566 .*/, '')],
  ['nozzle-alignment', 'otter', 'offsetX', scaled('X', 1.001)],
] as const)('%s on %s: a change of %s is caught', (kind, machine, setting, change) => {
  expect(caught(kind, machine, 1, change)).toContain(`rung-1-${setting}`);
});

test('a value that climbs within its rung is caught when it stands still', () => {
  const codes = caught('advance-wall', 'heron', 3, (line) => line.replace(/^M900 .*/, 'M900 K0.3'));
  expect(codes).toContain('rung-3-advance');
});

test('a lean that is not the one asked for is caught', () => {
  const made = good(makeLadder('overhang', {}, benchFor()));
  const asked = askedFor(made.plan);
  const rungs = asked.rungs.map((rung, i) => (i === 4 ? { ...rung, set: { overhang: 43 } } : rung));
  const { findings } = audit(made.trace, made.plan.bench, { ...asked, rungs });
  expect(findings.map(({ code }) => code)).toEqual(['rung-4-overhang']);
});

test('a test condition that is missing is caught on every rung', () => {
  const made = good(makeLadder('advance-hairpins', {}, benchFor()));
  const text = made.text.replace(/^M205 X5 Y5$/m, '');
  const { findings } = audit(readText(text), made.plan.bench, askedFor(made.plan));
  expect(findings.filter(({ code }) => code.endsWith('-jerk')).length).toBe(made.plan.rungs.length);
});

test('what is not put back at the end is told', () => {
  const made = good(makeLadder('advance-hairpins', {}, benchFor()));
  const back = made.text.lastIndexOf('M900 K0');
  const text = `${made.text.slice(0, back)}${made.text.slice(back + 'M900 K0'.length)}`;
  const { findings } = audit(readText(text), made.plan.bench, askedFor(made.plan));
  expect(findings.map(({ code }) => code)).toContain('not-put-back-advance');
});
