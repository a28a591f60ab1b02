import { connect, type Socket } from 'node:net';
import { checksum } from '../core/gcode/read';
import { stripLine } from '../core/dialect/command';
import { benchFor, makeTemperature } from '../core/testing';
import { Firmware } from './firmware';
import { drawTruths } from './truths';
import { NO_FAULTS, serveWire, type Faults } from './wire';

const bench = benchFor();
const truths = drawTruths(bench, 7);

/** A small client: one line at a time, again after a resend or when no answer comes. */
class Client {
  private socket!: Socket;
  private heard = '';
  private listener: ((line: string) => void) | null = null;
  resends = 0;

  constructor(private readonly port: number) {}

  connect(): Promise<void> {
    return new Promise((resolve) => {
      this.socket = connect(this.port, '127.0.0.1', resolve);
      this.socket.setNoDelay(true);
      this.socket.on('error', () => undefined);
      this.socket.on('data', (piece) => {
        this.heard += piece.toString('latin1');
        for (let end = this.heard.indexOf('\n'); end !== -1; end = this.heard.indexOf('\n')) {
          const line = this.heard.slice(0, end);
          this.heard = this.heard.slice(end + 1);
          this.listener?.(line);
        }
      });
    });
  }

  /** Sends a numbered line until it is taken. */
  async send(number: number, command: string, patienceMs = 60): Promise<void> {
    const body = `N${number} ${command}`;
    const line = `${body}*${checksum(body)}\n`;
    for (let attempt = 0; attempt < 50; attempt++) {
      const answer = await this.once(line, patienceMs);
      if (answer === 'ok') return;
      this.resends++;
      if (this.socket.destroyed) await this.connect();
    }
    throw new Error(`line ${number} was never taken`);
  }

  private once(line: string, patienceMs: number): Promise<'ok' | 'again'> {
    return new Promise((resolve) => {
      let resend = false;
      const done = (answer: 'ok' | 'again') => {
        clearTimeout(timer);
        this.listener = null;
        resolve(answer);
      };
      // An answer lost or a line end lost: a line end of our own closes whatever stands in the machine's ear.
      const timer = setTimeout(() => {
        this.socket.write('\n');
        done('again');
      }, patienceMs);
      this.listener = (heard) => {
        if (heard.startsWith('Resend:')) resend = true;
        if (heard === 'ok') done(resend ? 'again' : 'ok');
      };
      this.socket.write(line);
    });
  }

  close(): void {
    this.socket.destroy();
  }
}

async function stream(commands: readonly string[], faults: Partial<Faults>) {
  const machine = new Firmware(bench, truths);
  const wire = await serveWire(machine, { faults: { ...NO_FAULTS, ...faults }, seed: 5 });
  const client = new Client(wire.port);
  await client.connect();
  for (const [i, command] of commands.entries()) await client.send(i + 1, command);
  client.close();
  await wire.close();
  return { machine, resends: client.resends };
}

/** Commands of a real ladder, as many as are wanted. */
function commandsOf(count: number): string[] {
  const lines = makeTemperature().text.split('\n').map(stripLine).filter(Boolean);
  return Array.from({ length: count }, (_, i) => lines[i % lines.length]!);
}

test('20,000 lines at one per cent of spoiled characters arrive once each and in order', async () => {
  const commands = commandsOf(20_000);
  const rate = 0.01 / 3;
  const { machine, resends } = await stream(commands, {
    lost: rate,
    doubled: rate,
    corrupted: rate,
  });
  expect(resends).toBeGreaterThan(1000);
  expect(machine.executed).toHaveLength(commands.length);
  expect(machine.executed).toEqual(commands);
}, 180_000);

test('answers that come late and a link that is cut change nothing', async () => {
  const commands = commandsOf(120);
  const { machine } = await stream(commands, { lateMs: 3, cutAfter: 50 });
  expect(machine.executed).toEqual(commands);
}, 60_000);

const talk = (machine: Firmware, ...lines: string[]) =>
  lines.flatMap((line) => machine.receive(line));

test('a damaged, a skipped and a repeated line are never executed', () => {
  const machine = new Firmware(bench, truths);
  const numbered = (n: number, command: string) =>
    `N${n} ${command}*${checksum(`N${n} ${command}`)}`;
  expect(talk(machine, numbered(1, 'G28'))).toEqual(['ok']);
  expect(talk(machine, 'N2 G1 X5*1')).toContain('Resend: 2');
  expect(talk(machine, numbered(3, 'G1 X5'))).toContain('Resend: 2');
  expect(talk(machine, numbered(1, 'G28'))).toEqual(['ok']);
  expect(talk(machine, 'G1 X9')).toContain('Resend: 2');
  expect(talk(machine, '', '  ')).toEqual([]);
  expect(machine.executed).toEqual(['G28']);
});

test('waits wait, and the temperature is told', () => {
  const machine = new Firmware(bench, truths);
  expect(talk(machine, 'M105')[0]).toMatch(/^T:23\.0 \/0\.0 B:23\.0 \/0\.0$/);
  talk(machine, 'M104 S200');
  expect(talk(machine, 'M105')[0]).toMatch(/^T:23\.0 \/200\.0/);
  const [said] = talk(machine, 'M109 S200');
  expect(Math.abs(Number(/T:([\d.]+)/.exec(said!)![1]) - 200)).toBeLessThanOrEqual(1.01);
});

test('a heater that fails stops the machine, and M112 does so at once, for good', () => {
  const broken = new Firmware(bench, truths, { heater: true });
  expect(talk(broken, 'M109 S200')[0]).toMatch(/^Error: heating failed/);
  expect(talk(broken, 'G28')[0]).toMatch(/^Error: stopped/);
  const machine = new Firmware(bench, truths);
  expect(talk(machine, 'M104 S200', 'M112').at(-2)).toMatch(/^Error: stopped/);
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
