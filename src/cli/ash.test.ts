import { mkdtempSync, readFileSync, rmSync, writeFileSync, existsSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PNG } from 'pngjs';
import { rectangle, SECTIONS, slice, towerOf } from '../core/graft/testing/slicer';
import { seeded } from '../core/random';
import type { Analysis } from '../core/shake/analyse';
import { asText, felt } from '../core/shake/testing/made-up';
import { ashIn } from './testing/ash';

const folder = mkdtempSync(join(tmpdir(), 'ash-cli-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const ash = ashIn(folder);
const file = (name: string) => join(folder, name);

beforeAll(() => {
  writeFileSync(file('b.json'), ash('bench', '--preset', 'heron').stdout);
  ash(
    'make',
    'temperature',
    '--bench',
    'b.json',
    '--set',
    'from=215',
    'to=195',
    '--out',
    't.gcode',
    '--plan',
    't.json',
  );
}, 60_000);

test('kinds are told as text and as JSON', () => {
  expect(ash('kinds').stdout).toContain('temperature');
  const listed = JSON.parse(ash('kinds', '--json').stdout) as { id: string }[];
  expect(listed.find(({ id }) => id === 'temperature')).toMatchObject({ unit: '°C' });
  expect(listed[0]!.id).toBe('first-layer');
});

test('the same call makes the same bytes', () => {
  const again = ash(
    'make',
    'temperature',
    '--bench',
    'b.json',
    '--set',
    'from=215',
    'to=195',
    '--out',
    'u.gcode',
  );
  expect(again.status).toBe(0);
  expect(again.stdout).toBe('');
  expect(readFileSync(file('u.gcode'))).toEqual(readFileSync(file('t.gcode')));
});

test('a made file passes the audit, a spoilt one is told with exit 1', () => {
  const sound = ash('audit', 't.gcode', '--bench', 'b.json', '--json');
  expect(sound.status).toBe(0);
  expect(JSON.parse(sound.stdout)).toMatchObject({ findings: [] });
  const text = readFileSync(file('t.gcode'), 'utf8').replaceAll('M104 S0', 'M104 S210');
  writeFileSync(file('spoilt.gcode'), text);
  const spoilt = ash('audit', 'spoilt.gcode', '--bench', 'b.json');
  expect(spoilt.status).toBe(1);
  expect(spoilt.stdout).toContain('left heating');
});

test('time is told in seconds by cause', () => {
  const told = ash('time', 't.gcode', '--bench', 'b.json', '--json').stdout;
  const times = JSON.parse(told) as { laying: number; heating: number };
  expect(times.laying).toBeGreaterThan(600);
  expect(times.heating).toBeGreaterThan(60);
});

test('scores give a finding, a wrong count of scores a clear error', () => {
  const reading = (stringing: (number | null)[]) => ({
    format: 'ash-ladder/reading',
    version: 1,
    scores: { stringing },
  });
  writeFileSync(file('s.json'), JSON.stringify(reading([0, 2, 4, 2, 0])));
  const found = ash('find', '--plan', 't.json', '--scores', 's.json', '--json');
  const finding = JSON.parse(found.stdout) as {
    value: number;
    values: { value: number }[];
    next: { rungs: number; range: { from: number; to: number } };
  };
  expect(finding).toMatchObject({ verdict: 'value', unit: '°C' });
  expect(Math.abs(finding.value - 205)).toBeLessThanOrEqual(5);
  expect(finding.values[0]!.value).toBe(finding.value);
  expect(finding.next.range.from).toBeGreaterThan(finding.next.range.to);
  expect(finding.next.rungs).toBeGreaterThanOrEqual(5);
  writeFileSync(file('short.json'), JSON.stringify(reading([0, 2])));
  const refused = ash('find', '--plan', 't.json', '--scores', 'short.json');
  expect(refused.status).toBe(2);
  expect(refused.stderr).toContain('2 scores came; the ladder has 5 rungs');
});

test('a file printed on the understudy gives a result, a picture and no secrets', () => {
  const printed = ash(
    ...['print', 't.gcode', '--machine', 'heron', '--seed', '3'],
    ...['--out', 'result.json', '--picture', 'p.png'],
  );
  expect(printed.status).toBe(0);
  expect(printed.stdout).toBe('');
  const result = JSON.parse(readFileSync(file('result.json'), 'utf8')) as {
    places: object[];
    scores: { stringing: number[] };
    truths?: object;
  };
  expect(result).toMatchObject({ simulated: true, machine: 'Heron', seed: 3, failed: null });
  expect(result.places).toHaveLength(5);
  expect(result.scores.stringing).toHaveLength(5);
  expect(result.truths).toBeUndefined();
  const png = PNG.sync.read(readFileSync(file('p.png')));
  expect(png.width).toBeGreaterThan(600);
  // Something is there: plastic in the middle of the foot, air between the posts.
  const colours = new Set<number>();
  for (let i = 0; i < png.data.length; i += 4001 * 4) colours.add(png.data.readUInt32BE(i));
  expect(colours.size).toBeGreaterThan(20);
}, 60_000);

test('the whole loop runs on a hidden machine and tells truth, finding and plastic', () => {
  const looped = ash('loop', 'bridge-speed', '--machine', 'newt', '--seeds', '5', '--json');
  expect(looped.status).toBe(0);
  const { trials, count, regret } = JSON.parse(looped.stdout) as {
    trials: { ladders: number; grams: number; truth: number; regret: { loss: number } }[];
    count: number;
    regret: { unnoticed: number; loss: { median: number } };
  };
  expect(count).toBe(1);
  expect(trials[0]).toMatchObject({ seed: 5 });
  expect(trials[0]!.ladders).toBeGreaterThanOrEqual(1);
  expect(trials[0]!.grams).toBeGreaterThan(1.5);
  expect(trials[0]!.truth).toBeGreaterThan(10);
  expect(regret.loss.median).toBe(trials[0]!.regret.loss);
  expect(regret.unnoticed).toBe(regret.loss.median < 0.5 ? 1 : 0);
}, 120_000);

test.each([
  [['print', 't.gcode', '--seed', '-1'], 2, 'is no seed'],
  [['print', 't.gcode', '--view', 'under'], 2, 'Choose one of: front, back, top'],
  [['print', 't.gcode', '--machine', 'swan'], 2, 'There is no "swan"'],
  [['loop', 'temperature', '--machine', 'toString'], 2, 'There is no "toString"'],
  [['loop', 'temperature', '--seeds', '9..1'], 2, 'is no range'],
  [['make', 'nonsense', '--bench', 'b.json', '--out', 'x.gcode'], 2, 'There is no ladder kind'],
  [['make', 'temperature', '--bench', 'nowhere.json', '--out', 'x.gcode'], 2, 'cannot be read'],
  [
    ['make', 'temperature', '--bench', 'b.json', '--set', 'from=300', '--out', 'x.gcode'],
    1,
    'rated for 260',
  ],
  [
    ['make', 'temperature', '--bench', 'b.json', '--set', 'colour=3', '--out', 'x.gcode'],
    1,
    'has no "colour"',
  ],
  [['bench', '--preset', 'swan'], 2, 'Choose one of'],
  [['find', '--plan', 't.gcode', '--scores', 't.json'], 2, 'not complete JSON'],
  [['dance'], 2, 'unknown command'],
])('%j ends with %p and says why', (args, status, words) => {
  const ended = ash(...args);
  expect(ended.status).toBe(status);
  expect(ended.stderr).toContain(words);
  expect(existsSync(file('x.gcode'))).toBe(false);
});

test('a sliced file: its sections, a ladder made of it, proven, and taken out again', () => {
  const tower = { base: 1.4, section: 5, count: 5, cap: 0 };
  const text = slice(
    towerOf(tower, SECTIONS.window!(0.6, seeded(1)), [rectangle(-4, -4, 50, 26)], () => []),
    { infill: 0, absolute: true, meddles: [9] },
  );
  writeFileSync(file('s.gcode'), text);
  const found = JSON.parse(ash('sections', 's.gcode', '--json').stdout) as {
    verdict: string;
    candidates: { base: number; section: number; count: number; agreement: number }[];
  };
  expect(found.verdict).toBe('sections');
  expect(Object.keys(found.candidates[0]!)).toEqual(['base', 'section', 'count', 'agreement']);
  expect(found.candidates[0]!.count).toBe(5);
  const args = 'graft s.gcode --bench b.json --setting nozzle --from 220 --to 200 --step 5'.split(
    ' ',
  );
  // What the file sets itself has to be lifted out.
  const refused = ash(...args, '--out', 'g.gcode');
  expect([refused.status, existsSync(file('g.gcode'))]).toEqual([1, false]);
  expect(refused.stderr).toContain('Lift them out');
  const made = ash(...args, '--lift', '--out', 'g.gcode', '--plan', 'g.json');
  expect(made.status).toBe(0);
  const plan = JSON.parse(readFileSync(file('g.json'), 'utf8')) as { kind: string };
  expect(plan.kind).toBe('graft');
  const proven = JSON.parse(ash('audit', 'g.gcode', '--json').stdout) as {
    findings: { grade: string; code: string }[];
    rungs: { wanted: number; ok: boolean }[];
  };
  expect(proven.rungs.filter(({ ok }) => ok).map(({ wanted }) => wanted)).toEqual([
    220, 215, 210, 205, 200,
  ]);
  const whole = readFileSync(file('g.gcode'), 'utf8');
  writeFileSync(file('bad.gcode'), whole.replace('M104 S210', 'M104 S211'));
  const bad = ash('audit', 'bad.gcode');
  expect([bad.status, bad.stdout]).toEqual([1, expect.stringContaining('WRONG')]);
  expect(ash('ungraft', 'g.gcode', '--out', 'u.gcode').status).toBe(0);
  expect(readFileSync(file('u.gcode'), 'utf8')).toBe(text);
  expect(ash('ungraft', 's.gcode', '--out', 'u.gcode').status).toBe(1);
  // By hand, by a table, and with every layer.
  const by = (...rest: string[]) => ash('graft', 's.gcode', '--bench', 'b.json', ...rest);
  const flow = '--setting flow --from 0.9 --to 1.1 --step 0.1 --at 2,8,14 --way moves'.split(' ');
  expect(by(...flow, '--out', 'f.gcode').status).toBe(0);
  writeFileSync(file('t.csv'), 'height,fan,retraction\n2,0.2,3\n8,0.6,4\n');
  expect(by('--table', 't.csv', '--lift', '--out', 'f.gcode').status).toBe(0);
  const slope = '--setting advance --from 0 --slope 0.02 --base 1.4'.split(' ');
  expect(by(...slope, '--out', 'f.gcode').status).toBe(0);
  expect(by('--setting', 'colour', '--out', 'f.gcode').status).toBe(2);
}, 120_000);

test('a record is told as peaks and shapers; one of a silent sensor is refused, with what to look at', () => {
  const columns = felt({ modes: [{ hz: 44, damping: 0.06, share: 1 }], rate: 800, pace: 4 });
  writeFileSync(file('record.csv'), asText(columns, 800, { header: ['time', 'x', 'y', 'z'] }));
  const { status, stdout } = ash('shake', 'record.csv', '--axis', 'y', '--accel', '3000', '--json');
  expect(status).toBe(0);
  const told = JSON.parse(stdout) as Analysis & { ok: boolean };
  expect(told).toMatchObject({ ok: true, refused: [], unit: 'm/s²', axis: 'y' });
  expect(Math.abs(told.peaks[0]!.hz - 44)).toBeLessThan(0.7);
  expect(told.proposal).toMatchObject({ answer: 'shaper', type: told.shapers[0]!.type });
  // Echo and rounding at what was asked are less than at the largest acceleration.
  const [best] = told.shapers;
  expect(best!.acceleration).toBeGreaterThan(3000);
  expect(Math.max(best!.echo / 0.012, best!.rounding / 0.12)).toBeCloseTo(
    3000 / best!.acceleration,
    2,
  );

  const silent = Array.from({ length: 3200 }, (_, i) => `${i / 800},0,0,0`).join('\n');
  writeFileSync(file('silent.csv'), silent);
  const refused = ash('shake', 'silent.csv', '--json');
  expect(refused.status).toBe(1);
  expect(JSON.parse(refused.stdout)).toMatchObject({
    ok: false,
    refused: [{ where: 'sensor', mend: expect.stringContaining('power') as string }],
    proposal: null,
  });
  expect(ash('shake', 'record.csv', '--axis', 'z').status).toBe(2);
  expect(ash('shake', 'none.csv').status).toBe(2);
}, 60_000);

long(
  'a shake file is made, runs on the understudy, and its record is laid on its marks',
  () => {
    writeFileSync(file('b.json'), ash('bench', '--preset', 'newt').stdout);
    const make = (...more: string[]) =>
      ash('shake-file', '--bench', 'b.json', '--axis', 'y', '--out', 'shake.gcode', ...more);
    const made = make('--seconds', '20', '--accel', '2500', '--json');
    expect(made.status).toBe(0);
    const told = JSON.parse(made.stdout) as { ok: boolean; marks: { axis: string }; findings: [] };
    expect(told).toMatchObject({ ok: true, marks: { axis: 'y', acceleration: 2500 } });
    expect(told.findings.filter(({ grade }) => grade !== 'note')).toEqual([]);
    expect(ash('audit', 'shake.gcode', '--bench', 'b.json').status).toBe(0);

    const machine = '--bench b.json --seed 8 --reveal'.split(' ');
    const run = ash('print', 'shake.gcode', ...machine, '--record', 'y.csv', '--out', 'o.json');
    expect(run.status).toBe(0);
    const { truths } = JSON.parse(readFileSync(file('o.json'), 'utf8')) as {
      truths: { resonance: { y: number } };
    };
    const shaken = ash('shake', 'y.csv', '--axis', 'y', '--file', 'shake.gcode', '--json');
    expect(shaken.status).toBe(0);
    const { peaks, response, range } = JSON.parse(shaken.stdout) as Analysis;
    expect(Math.abs(peaks[0]!.hz / truths.resonance.y - 1)).toBeLessThan(0.03);
    expect(response!.hz.at(-1)).toBe(135);
    expect(range!.hz[0]).toBeLessThan(range!.hz[1]);
    expect(ash('shake', 'y.csv').stdout).toMatch(/^[\d.]+ samples a second in g/);

    const broken = ['--record', 'f.csv', '--fault', 'power', '--out', 'o.json'];
    expect(ash('print', 'shake.gcode', ...machine, ...broken).status).toBe(0);
    const still = ash('shake', 'f.csv', '--still');
    expect([still.status, still.stdout]).toEqual([1, expect.stringContaining('zero')]);
    expect(make('--accel', '9000').status).toBe(1);
    expect(make('--accel', 'much').status).toBe(2);
    expect(make('--at', '1').status).toBe(2);
    expect(ash('shake', 'y.csv', '--file', 'b.json').status).toBe(2);
  },
  120_000,
);

describe('loupe', () => {
  type Told = {
    ok: boolean;
    problems: { where: string }[];
    pxPerMm: number | null;
    measures: {
      name: string;
      rung: number;
      value: number | null;
      spread: number | null;
      unit: string;
      told: boolean;
    }[];
  };
  const look = (...args: string[]) => {
    const { status, stdout, stderr } = ash('loupe', ...args, '--json');
    return { status, stderr, told: (status === 2 ? null : JSON.parse(stdout)) as Told };
  };
  let corners = '';
  beforeAll(() => {
    ash('print', 't.gcode', '--picture', 'front.png', '--out', 'printed.json');
    const { width, height } = PNG.sync.read(readFileSync(file('front.png')));
    const right = width - 20;
    corners = `20,${height},${right},${height},${right},10,20,10`;
  }, 60_000);

  test('tells what was asked for of every rung of a simulated print', () => {
    const { status, told } = look(
      'front.png',
      '--plan',
      't.json',
      '--corners',
      corners,
      '--measure',
      'layer-pitch',
    );
    expect(status).toBe(0);
    expect(told.ok).toBe(true);
    expect(told.pxPerMm).toBeCloseTo(20, 0);
    expect(told.measures.map(({ rung }) => rung)).toEqual([0, 1, 2, 3, 4]);
    for (const one of told.measures) {
      expect(one).toMatchObject({ name: 'layer-pitch', unit: 'mm', told: true });
      expect(Math.abs(one.value! - 0.2)).toBeLessThan(0.004);
      expect(one.spread!).toBeGreaterThan(0);
    }
  });

  long('what it tells counts in a finding beside scores, and each voice is told', () => {
    const { stdout } = ash(
      'loupe',
      'front.png',
      '--plan',
      't.json',
      '--corners',
      corners,
      '--json',
    );
    writeFileSync(file('seen.json'), stdout);
    const found = (...args: string[]) =>
      ash('find', '--plan', 't.json', '--scores', 's.json', ...args);
    const alone = found('--json');
    expect(alone.status).toBe(0);
    expect(JSON.parse(alone.stdout)).not.toHaveProperty('voices');
    const both = JSON.parse(found('--loupe', 'seen.json', '--json').stdout) as {
      voices: { of: string[]; eye: object | null };
    };
    expect(both.voices.of).toContain('stringing');
    expect(both.voices.eye).not.toBeNull();
    expect(found('--loupe', 'seen.json').stdout).toMatch(/^eye: .*\nloupe, for stringing/m);
    const wrong = found('--loupe', 's.json');
    expect(wrong.status).toBe(2);
    expect(wrong.stderr).toMatch(/measures/);
  });

  test('says from where a measure is taken, and ends with 1 where nothing is told', () => {
    const { status, told } = look(
      'front.png',
      '--plan',
      't.json',
      '--measure',
      'line-up',
      '--corners',
      corners,
    );
    expect(status).toBe(1);
    expect(told.ok).toBe(false);
    expect(told.measures.every((one) => !one.told && one.value === null)).toBe(true);
  });

  test.each([
    [['front.png', '--plan', 't.json', '--corners', '1,2,3'], /not eight numbers/],
    [['front.png', '--plan', 't.json', '--view', 'left'], /"left" is unknown/],
    [['front.png', '--plan', 't.json', '--measure', 'beauty'], /"beauty" is unknown/],
    [['t.json', '--plan', 't.json'], /not a picture that can be read/],
    [['front.png', '--plan', 'front.png'], /plan/],
    [['none.jpg', '--plan', 't.json'], /cannot be read/],
  ])('refuses %j with words', (args, words) => {
    const { status, stderr } = look(...args);
    expect(status).toBe(2);
    expect(stderr).toMatch(words);
  });
});
