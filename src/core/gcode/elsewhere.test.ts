// Files from elsewhere: what they mean on firmware that takes modes in other ways, and what may be taken out of them.
import fc from 'fast-check';
import { benchFor } from '../testing';
import { layersIn } from '../view/layers';
import { audit } from './audit';
import { blockFaults } from './block-faults';
import { DIALECTS, type Column } from '../dialect/dialect';
import { Lines } from './lines';
import { readText } from './read';
import { recognise } from './recognise';
import { CHANGES } from '../dialect/changes';
import { changeAt } from './trace';

const on = (column: Column) => ({ dialect: DIALECTS[column] });
const fed = (text: string, column: Column) => {
  const { e, count } = readText(text, on(column)).moves;
  return Array.from(e.subarray(0, count), (one) => Number(one.toFixed(4))).filter(
    (one) => one !== 0,
  );
};
const told = (text: string, column: Column = 'A') =>
  recognise(
    new Lines(new TextEncoder().encode(text)),
    readText(text, on(column)),
    DIALECTS[column],
  );
const codes = (text: string, bench = benchFor()) =>
  audit(readText(text, bench.machine), bench).findings.map(({ grade, code }) => `${grade} ${code}`);

describe('modes of E', () => {
  const absoluteThenG91 = 'M82\nG92 E0\nG1 X1 E5\nG91\nG1 X1 E2\nG90\nG1 X9 E1';
  test('G91 makes E a step on A, B and D, and leaves it on C', () => {
    expect(fed('M82\nG1 X1 E5\nG91\nG1 X1 E2', 'A')).toEqual([5, 2]);
    expect(fed('M82\nG1 X1 E5\nG91\nG1 X1 E2', 'B')).toEqual([5, 2]);
    expect(fed('M82\nG1 X1 E5\nG91\nG1 X1 E2', 'D')).toEqual([5, 2]);
    expect(fed('M82\nG1 X1 E5\nG91\nG1 X1 E2', 'C')).toEqual([5, -3]);
  });
  test('G90 makes E a place again on A and B, even after M83; on C and D it does not', () => {
    expect(fed('M83\nG1 X1 E5\nG90\nG1 X2 E6', 'A')).toEqual([5, 1]);
    expect(fed('M83\nG1 X1 E5\nG90\nG1 X2 E6', 'C')).toEqual([5, 6]);
    expect(fed('M83\nG1 X1 E5\nG90\nG1 X2 E6', 'D')).toEqual([5, 6]);
    expect(fed(absoluteThenG91, 'D')).toEqual([5, 2, -6]);
  });
});

describe('commands of column C', () => {
  const c = (text: string) => {
    const trace = readText(text, on('C'));
    return Array.from({ length: trace.changes.count }, (_, i) => {
      const { name, value, tool } = changeAt(trace, i);
      return `${name} ${value} T${tool}`;
    });
  };
  test('G10 with a tool sets its temperature and draws nothing back; M116 waits for it', () => {
    expect(c('G10 P0 S210 R180\nM116')).toEqual(['nozzle 210 T0', 'wait-nozzle 210 T0']);
    expect(readText('G10 P0 S210', on('C')).moves.count).toBe(0);
  });
  test('a nozzle that G10 leaves hot is told', () => {
    expect(codes('G28\nG10 P0 S210\nM116', benchFor('newt'))).toContain('stop heater-on-nozzle-0');
  });
  test('M572 without its D is pressure advance, and so is a list of tools', () => {
    expect(c('M572 S0.05')).toEqual(['advance 0.05 T0']);
    expect(c('M572 D0:1 S0.05')).toEqual(['advance 0.05 T0']);
    expect(c('M572 D1 S0.05')).toEqual([]);
  });
  test('M106 S0.5 is half there, and next to nothing elsewhere', () => {
    expect(c('M106 S0.5')).toEqual(['fan 0.5 T0']);
    expect(c('M106 S1')).toEqual(['fan 1 T0']);
    expect(changeAt(readText('M106 S51', on('A')), 0).value).toBeCloseTo(0.2);
    expect(changeAt(readText('M106 S0.5', on('A')), 0).value).toBeCloseTo(0.5 / 255);
  });
});

test('G10 and G11 without M207 do what the bench says, at the speed override', () => {
  const { machine } = benchFor('wren');
  const trace = readText('M83\nM220 S50\nG1 X5 E1 F600\nG10\nG11', machine);
  const { e, speed, count } = trace.moves;
  expect([e[count - 2], e[count - 1]].map((one) => Number(one!.toFixed(3)))).toEqual([-0.6, 0.6]);
  expect(speed[count - 2]).toBeCloseTo(machine.retraction.speed * 0.5);
});

describe('commands of the machine’s own', () => {
  const body =
    'START_PRINT BED_TEMP=60 EXTRUDER_TEMP=210\nG90\nM83\nG1 X50 Y50 Z0.2 F3000\nG1 X80 E2 F1200';
  test('what one that is not known may have heated or homed is not known, and no false stop', () => {
    const found = codes(`${body}\nEND_PRINT`, benchFor('wren'));
    expect(found).toEqual(
      expect.arrayContaining([
        'warning unknown-START_PRINT',
        'note heat-not-known',
        'note homing-not-known',
      ]),
    );
    expect(found.filter((one) => one.startsWith('stop'))).toEqual([]);
  });
  test('once it is said what it does, it counts', () => {
    const bench = benchFor('wren');
    const macros = [
      { name: 'START_PRINT', heats: true, homes: true, primes: true },
      { name: 'END_PRINT', heats: false, homes: false, primes: false },
    ];
    const known = { ...bench, machine: { ...bench.machine, macros } };
    const found = codes(`${body}\nM104 S0\nM140 S0\nEND_PRINT`, known);
    expect(found).toEqual([]);
    expect(audit(readText(body, known.machine), known).hottest).toEqual({ nozzle: 210, bed: 60 });
  });
  test('heaters named by words heat', () => {
    const text =
      'SET_HEATER_TEMPERATURE HEATER=extruder TARGET=215\nTEMPERATURE_WAIT SENSOR=extruder MINIMUM=213';
    const trace = readText(text, on('D'));
    expect(changeAt(trace, 0)).toMatchObject({ name: 'nozzle', value: 215 });
    expect(changeAt(trace, 1)).toMatchObject({ name: 'wait-nozzle', value: 213 });
  });
  test('rising a little before homing is a note', () => {
    expect(codes('G91\nG1 Z5 F600\nG90\nG28')).toEqual(['note rises-before-homing']);
  });
});

describe('filament alone', () => {
  const hot = 'G28\nG90\nM83\nM109 S205\n';
  const off = '\nM104 S0\nM107';
  test('a push over 150 mm is a stop, in one line or several', () => {
    expect(codes(`${hot}G1 E151 F200${off}`)).toContain('stop pushed-too-much');
    expect(codes(`${hot}G1 E80 F200\nG1 E80${off}`)).toContain('stop pushed-too-much');
    expect(codes(`${hot}G1 E149 F200${off}`)).toEqual([]);
  });
  test('drawing back past the cold zone is a stop, summed up', () => {
    expect(codes(`${hot}G1 E-6 F1200\nG1 E-5${off}`)).toContain('stop drawn-too-far');
    expect(codes(`${hot}G1 E-6 F1200\nG1 E6\nG1 E-5${off}`)).toEqual([]);
  });
  test('a block that pushes metres is refused with its line', () => {
    const bench = benchFor();
    const odd = { ...bench, machine: { ...bench.machine, endBlock: 'M104 S0\nG1 E1996 F3000' } };
    expect(blockFaults(bench)).toEqual([]);
    expect(blockFaults(odd)).toMatchObject([{ where: 'end block' }]);
    expect(blockFaults(odd)[0]!.what).toContain('line 2');
  });
});

const square = (z: number, e: (by: number) => string, size = 20) =>
  [
    `G0 X80 Y80 Z${z}`,
    `G1 X${80 + size} Y80 ${e(size)}`,
    `G1 X${80 + size} Y${80 + size} ${e(size)}`,
    `G1 X80 Y${80 + size} ${e(size)}`,
    `G1 X80 Y80 ${e(size)}`,
  ].join('\n');

/** A print with preheating, purge, skirt and an end that speaks in absolute E. */
function sliced(purge: string, layers = 12): string {
  let at = 0;
  const e = (by: number) => `E${(at += by * 0.033).toFixed(5)}`;
  const head = `M104 S165\nG28\nM104 S212\nM109 S212\nM82\nG92 E0\n${purge}`;
  const skirt = square(0.2, e, 34).replaceAll(
    /([XY])(\d+)/g,
    (_, axis, n) => `${axis}${Number(n) - 7}`,
  );
  const rest = Array.from({ length: layers }, (_, i) => {
    const laid = square(0.2 * (i + 1), e);
    const back = `G1 F2400 E${(at - 0.8).toFixed(5)}\nG1 F2400 E${at.toFixed(5)}`;
    return `${laid}\n${back}`;
  });
  return [head, skirt, ...rest, `G1 E${(at - 2).toFixed(5)} F1800`, 'M104 S0', 'M84'].join('\n');
}
const PURGE = 'G1 X2 Y10 Z0.3 F5000\nG1 X2 Y150 E12 F1200\nG1 X2.4 Y150\nG1 X2.4 Y10 E24\nG92 E0';

describe('a bench from a file', () => {
  test('takes the temperature that it printed at, not the first that it names', () => {
    const one = told(sliced(PURGE)).find(({ id }) => id === 'nozzle')!;
    expect(one.says).toContain('212');
  });
  test('takes retraction out of the moves', () => {
    const one = told(sliced(PURGE)).find(({ id }) => id === 'retraction')!;
    expect(one.change.machine!.retraction).toEqual({ distance: 0.8, speed: 40, lift: 0 });
  });
  test.each(['', PURGE])('ends the start block before the skirt (%#)', (purge) => {
    const start = told(sliced(purge)).find(({ id }) => id === 'start-block')!;
    const { startBlock } = start.change.machine!;
    const strokes = startBlock!.split('\n').filter((line) => /^G1 .*E/.test(line));
    expect(strokes).toHaveLength(purge === '' ? 0 : 2);
  });
  test('writes E as steps, whatever the file says', () => {
    const end = told(sliced(PURGE)).find(({ id }) => id === 'end-block')!;
    // The last line of the print itself restores what was drawn back before.
    expect(end.change.machine!.endBlock).toContain('E-2 F1800');
    expect(end.change.machine!.endBlock!.split('\n')[0]).toBe('M83');
  });
  test.each(['M109 S212', 'M109S212', 'M109 R212'])(
    'leaves the heat of %s to be filled in',
    (wait) => {
      const text = sliced(PURGE).replace('M109 S212', wait);
      const start = told(text).find(({ id }) => id === 'start-block')!;
      expect(start.change.machine!.startBlock).toContain(`${wait.slice(0, -3)}{nozzle}`);
    },
  );
  test('refuses a block that cannot be right, and says why', () => {
    const text = sliced(PURGE).replace('M84', 'G92 E0\nG1 E-90\nM84');
    const end = told(text).find(({ id }) => id === 'end-block')!;
    expect(end.refused).toContain('of filament, past');
    expect(end.change).toEqual({});
  });
  test('a rewritten block feeds what it fed in its file', () => {
    const step = fc.integer({ min: -60, max: 600 }).map((n) => n / 100);
    const mode = fc.constantFrom('M82', 'M83', 'G90', 'G91', 'G92 E0', 'G92 E3');
    fc.assert(
      fc.property(
        fc.array(fc.oneof(step, mode), { maxLength: 12 }),
        fc.boolean(),
        (parts, glued) => {
          const lines = parts.map((one, i) =>
            typeof one === 'string' ? one : `G1 X${2 + 0.1 * i} E${one}`,
          );
          // Some write without spaces, with numbers of lines and sums over them.
          const purge = lines
            .map((line, i) => (glued ? `N${i + 1} ${line.replaceAll(' ', '')}*57` : line))
            .join('\n');
          const text = sliced(`${purge}\nG90\nM82\nG92 E0`);
          const block = told(text).find(({ id }) => id === 'start-block');
          const again = block?.change.machine?.startBlock;
          if (!again) return;
          const sum = (list: number[]) => list.reduce((a, b) => a + b, 0);
          const own = fed(text.split('\n').slice(0, block.line).join('\n'), 'A');
          expect(sum(fed(again.replaceAll('{nozzle}', '212'), 'A'))).toBeCloseTo(sum(own), 2);
        },
      ),
      { seed: 5, numRuns: 200 },
    );
  });
});

test('every turn of a spiral is a layer, and a purge is none', () => {
  const turns = 229;
  const lines = [
    'G28',
    'M109 S205',
    'M83',
    PURGE.replace(/^G92 E0$/m, '').replaceAll('E24', 'E12'),
  ];
  for (let i = 0; i <= turns * 60; i++) {
    const angle = (i / 60) * 2 * Math.PI;
    const z = 0.2 + (0.25 * i) / 60;
    const r = 20 + 5 * Math.sin(z / 9) + 3 * Math.cos(3 * angle);
    lines.push(
      `G1 X${(100 + r * Math.cos(angle)).toFixed(3)} Y${(100 + r * Math.sin(angle)).toFixed(3)} Z${z.toFixed(3)}${i === 0 ? '' : ' E0.1'}`,
    );
  }
  const layers = layersIn(readText(lines.join('\n')));
  expect(layers.length).toBe(turns);
  for (const { thickness } of layers) expect(thickness).toBeCloseTo(0.25, 2);
});

test('every change has its own code', () => {
  expect(new Set(CHANGES).size).toBe(CHANGES.length);
});
