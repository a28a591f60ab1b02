import { readdirSync, readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import { askedFor } from '../gcode/asked';
import { audit } from '../gcode/audit';
import { readText } from '../gcode/read';
import { good } from '../testing';
import { leadValues, rungName } from './axes';
import { parsePlan, Plan } from './plan';

const FOLDER = 'src/core/plan/testing';
const FILES = readdirSync(FOLDER).filter((name) => name.endsWith('.gcode.gz'));
const textOf = (name: string) => gunzipSync(readFileSync(`${FOLDER}/${name}`)).toString();
const planIn = (name: string) => good(parsePlan(readText(textOf(name)).planText!));

test.each(FILES)(
  '%s, made before plans had axes, is read, and its file passes against its plan',
  (name) => {
    const text = textOf(name);
    expect(text).toContain('"version":1');
    const plan = planIn(name);
    expect(plan.version).toBe(2);
    expect(Plan.safeParse(plan).success).toBe(true);
    const audited = audit(readText(text, plan.bench.machine), plan.bench, askedFor(plan));
    expect(audited.findings.filter(({ grade }) => grade === 'stop')).toEqual([]);
    expect(audited.rungs.filter(({ ok }) => !ok)).toEqual([]);
  },
);

test.each([
  ['temperature', ['210 °C', '205 °C', '200 °C'], 'z'],
  ['temperature-one', ['205 °C'], 'z'],
  ['first-layer', ['0.1 mm', '0.05 mm', '0 mm', '-0.05 mm', '-0.1 mm'], 'y'],
  ['advance-wall', ['0 s', '0.02 s', '0.04 s'], 'z'],
] as const)('%s of then climbs one axis, rung by rung', (name, said, along) => {
  const { axes, rungs } = planIn(`${name}.gcode.gz`);
  expect(axes).toHaveLength(1);
  expect(axes[0]!.along).toBe(along);
  expect(rungs.map((rung) => rungName(axes, rung))).toEqual(said);
});

test('what was measured then has no axis, and a pair of lines sets both offsets', () => {
  for (const name of ['extruder-steps', 'flow']) {
    const plan = planIn(`${name}.gcode.gz`);
    expect(plan.axes).toEqual([]);
    expect(leadValues(plan)).toEqual([0]);
  }
  const { axes } = planIn('nozzle-alignment.gcode.gz');
  for (const { set } of axes[0]!.steps) expect(set.offsetX).toBe(set.offsetY);
});

test('the slope of a wall belongs to what climbs within its rungs', () => {
  const { rungs } = planIn('advance-wall.gcode.gz');
  for (const { slope } of rungs) expect(slope!.advance).toBeGreaterThan(0);
});

test.each([
  ['nothing', null],
  ['a list', []],
  ['a plan of a later version', { format: 'ash-ladder/plan', version: 3 }],
  ['no rungs', { format: 'ash-ladder/plan', version: 1, rungs: [] }],
  ['a rung that is none', { format: 'ash-ladder/plan', version: 1, rungs: [7] }],
])('%s is no plan of any version', (_, data) => {
  const parsed = parsePlan(JSON.stringify(data));
  expect(parsed.ok).toBe(false);
});

test('a rung that stands on no step of its axis, or has another value than it, is refused', () => {
  const plan = planIn('first-layer.gcode.gz');
  const off = { ...plan, rungs: plan.rungs.map((rung) => ({ ...rung, at: [99] })) };
  const odd = { ...plan, rungs: plan.rungs.map((rung) => ({ ...rung, set: { zOffset: 0.4 } })) };
  const none = { ...plan, rungs: plan.rungs.map((rung) => ({ ...rung, at: [] })) };
  for (const wrong of [off, odd, none]) {
    const parsed = parsePlan(JSON.stringify(wrong));
    expect(parsed.ok ? [] : parsed.problems.map(({ where }) => where)).toContain('plan.rungs.0.at');
  }
});
