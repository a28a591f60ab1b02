import { checksum } from '../core/gcode/read';
import { benchFor } from '../core/testing';
import { Firmware } from './firmware';
import { drawTruths } from './truths';

const bench = benchFor();
const truths = drawTruths(bench, 7);

function talk(machine: Firmware, ...lines: string[]): string[] {
  const said: string[] = [];
  machine.say = (line) => said.push(line);
  for (const line of lines) machine.receive(line);
  return said;
}

test('a damaged, a skipped and a repeated line are never executed', () => {
  const executed: string[] = [];
  const machine = new Firmware(bench, truths, { executed });
  const numbered = (n: number, command: string) =>
    `N${n} ${command}*${checksum(`N${n} ${command}`)}`;
  expect(talk(machine, numbered(1, 'G28'))).toEqual(['ok']);
  expect(talk(machine, 'N2 G1 X5*1')).toContain('Resend: 2');
  expect(talk(machine, numbered(3, 'G1 X5'))).toContain('Resend: 2');
  expect(talk(machine, numbered(1, 'G28'))).toEqual(['ok']);
  expect(talk(machine, 'G1 X9')).toContain('Resend: 2');
  expect(talk(machine, '', '  ')).toEqual([]);
  expect(executed).toEqual(['G28']);
});

test('waits wait, and the temperature is told', () => {
  const machine = new Firmware(bench, truths);
  expect(talk(machine, 'M105')[0]).toMatch(/^ok T:23\.0 \/0\.0 B:23\.0 \/0\.0/);
  talk(machine, 'M104 S200');
  expect(talk(machine, 'M105')[0]).toMatch(/^ok T:23\.0 \/200\.0/);
  const [said] = talk(machine, 'M109 S200');
  expect(Math.abs(Number(/T:([\d.]+)/.exec(said!)![1]) - 200)).toBeLessThanOrEqual(1.01);
});

test('a heater that fails stops the machine, and M112 does so at once, for good', () => {
  const broken = new Firmware(bench, truths, { heater: true });
  expect(talk(broken, 'M109 S200')[0]).toMatch(/^Error: heating failed/);
  expect(talk(broken, 'G28')[0]).toMatch(/^Error: stopped/);
  const machine = new Firmware(bench, truths);
  expect(talk(machine, 'M104 S200', 'M112').at(-1)).toMatch(/^Error: stopped/);
  expect(talk(machine, 'G28')).toEqual(['Error: stopped by M112; switch off and on again']);
  machine.powerCycle();
  expect(talk(machine, 'G28')).toEqual(['ok']);
});

test('too hot is refused, unknown is told and does no harm', () => {
  const machine = new Firmware(bench, truths);
  expect(talk(machine, 'M104 S400')[0]).toContain('over the 260');
  expect(talk(machine, 'M987 Q1')).toEqual(['echo: unknown command: M987', 'ok']);
  expect(talk(machine, 'M115')[0]).toContain('understudy');
});

test.each(['heron', 'wren', 'otter', 'newt'] as const)(
  'settings of %s live until the power is cut, stored ones beyond it',
  (name) => {
    const own = benchFor(name);
    const machine = new Firmware(own, drawTruths(own, 3));
    const set = own.machine.dialect.advance.replace('{advance}', '0.07');
    const report = () => talk(machine, 'M503').join('\n');
    talk(machine, set);
    expect(report()).toContain('0.07');
    machine.powerCycle();
    expect(report()).not.toContain('0.07');
    talk(machine, set, 'M500');
    machine.powerCycle();
    expect(report()).toContain('0.07');
    talk(machine, 'M502');
    expect(report()).not.toContain('0.07');
    talk(machine, 'M501');
    expect(report()).toContain('0.07');
  },
);

test('a plate that is nearly warm takes its time and is no broken heater', async () => {
  const machine = new Firmware(bench, truths, { speed: 3000 });
  const said: string[] = [];
  machine.say = (line) => said.push(line);
  const told = (what: RegExp) =>
    new Promise<void>((resolve) => {
      machine.say = (line) => {
        said.push(line);
        if (what.test(line)) resolve();
      };
    });
  const warm = told(/^ok$|Error/);
  machine.receive('M190 S60');
  await warm;
  machine.receive('M140 S0');
  // Two degrees below, where it rises by less than one in twenty seconds.
  machine.wait(4);
  const again = told(/^ok$|Error/);
  machine.receive('M190 S60');
  await again;
  machine.close();
  expect(said.filter((line) => line.startsWith('Error'))).toEqual([]);
});
