/** The two ways to a machine: a serial port, and a TCP connection. */

import { existsSync, readdirSync, realpathSync } from 'node:fs';
import { connect } from 'node:net';
import { join } from 'node:path';
import { SerialPort } from 'serialport';
import { fail, ok, problem, type Result } from '../core/result';
import { addressText, type Address } from './address';
import { WAITS_MS } from './patience';

export type Transport = {
  write(text: string): void;
  /** Called with what comes in, as it comes. */
  heard: (text: string) => void;
  /** Called once, when the line is gone, with why; not after `close`. */
  lost: (why: string) => void;
  /** The promise is kept when another may be opened; it always comes to its end. */
  close(): Promise<void>;
};

/** A port that does not close is left, ms. */
const CLOSES_MS = 1000;

const unheard = () => undefined;

export function openTransport(address: Address, speed?: number): Promise<Result<Transport>> {
  return address.by === 'tcp'
    ? openTcp(address)
    : openSerial(address, speed ?? address.speed ?? 115_200);
}

const noWay = (address: Address, why: string, mend: string) =>
  fail(problem('address', `Nothing can be reached at ${addressText(address)}: ${why}.`, mend));

function openTcp(address: Address & { by: 'tcp' }): Promise<Result<Transport>> {
  return new Promise((resolve) => {
    const socket = connect({ host: address.host, port: address.port });
    socket.setNoDelay(true);
    socket.setEncoding('latin1');
    const transport: Transport = {
      write: (text) => void socket.write(text, 'latin1'),
      heard: unheard,
      lost: unheard,
      close() {
        transport.lost = transport.heard = unheard;
        socket.destroy();
        return Promise.resolve();
      },
    };
    let opened = false;
    const timer = setTimeout(() => socket.destroy(new Error('it does not answer')), WAITS_MS.opens);
    socket.once('connect', () => {
      opened = true;
      clearTimeout(timer);
      // A cable that is pulled says nothing; this notices it in the end.
      socket.setKeepAlive(true, 5000);
      resolve(ok(transport));
    });
    socket.on('data', (text) => transport.heard(text as unknown as string));
    let why = 'the other side closed the connection';
    socket.on('error', (error: NodeJS.ErrnoException) => {
      why = WHY[error.code ?? ''] ?? error.message;
    });
    socket.on('close', () => {
      clearTimeout(timer);
      if (opened) return transport.lost(why);
      resolve(
        noWay(address, why, 'See that the machine is on and that host and port are its own.'),
      );
    });
  });
}

const WHY: Record<string, string> = {
  ECONNREFUSED: 'nothing listens there',
  ENOTFOUND: 'no such host is known',
  EAI_AGAIN: 'no such host is known',
  EHOSTUNREACH: 'the host cannot be reached',
  ENETUNREACH: 'the host cannot be reached',
  ECONNRESET: 'the connection was cut',
  EPIPE: 'the connection was cut',
};

function openSerial(
  address: Address & { by: 'serial' },
  speed: number,
): Promise<Result<Transport>> {
  return new Promise((resolve) => {
    const port = new SerialPort({ path: address.path, baudRate: speed, autoOpen: false });
    const transport: Transport = {
      write: (text) => void port.write(text, 'latin1'),
      heard: unheard,
      lost: unheard,
      close() {
        transport.lost = transport.heard = unheard;
        if (!port.isOpen) return Promise.resolve();
        return new Promise((closed) => {
          const late = setTimeout(closed, CLOSES_MS);
          port.close(() => {
            clearTimeout(late);
            closed();
          });
        });
      },
    };
    port.on('data', (bytes: Buffer) => transport.heard(bytes.toString('latin1')));
    let why = 'the cable was pulled or the machine was switched off';
    port.on('error', (error: Error) => {
      why = error.message.replace(/^Error: /, '');
    });
    port.on('close', () => transport.lost(why));
    port.open((error) => {
      if (!error) return resolve(ok(transport));
      const text = error.message;
      if (/permission|EACCES/i.test(text))
        return resolve(
          noWay(
            address,
            'this user may not open it',
            'Give yourself the right to serial ports (on most systems the group dialout), and log in again.',
          ),
        );
      if (/lock|busy|EBUSY/i.test(text))
        return resolve(
          noWay(address, 'another program has it open', 'Close that program, then try again.'),
        );
      resolve(
        noWay(
          address,
          existsSync(address.path) ? text.replace(/^Error: /, '') : 'there is no such port',
          'See that the cable is in and the machine is on.',
        ),
      );
    });
  });
}

export type Port = { path: string; about: string };

/** Names of serial devices as the system gives them. */
const SERIAL = /^tty(?:USB|ACM|AMA|XRUSB)\d+$/;

/** Serial ports of this computer, by what the device folder says alone. */
export function listPorts(dev = '/dev'): Port[] {
  const about = new Map<string, string>();
  const named = join(dev, 'serial/by-id');
  for (const name of entries(named)) {
    try {
      about.set(realpathSync(join(named, name)), name);
    } catch {
      // A name whose device has gone.
    }
  }
  return entries(dev)
    .filter((name) => SERIAL.test(name))
    .sort((a, b) => a.localeCompare(b, 'en', { numeric: true }))
    .map((name) => {
      const path = join(dev, name);
      return { path, about: (about.get(path) ?? '').replace(/^usb-|-if\d+.*$/g, '') };
    });
}

function entries(folder: string): string[] {
  try {
    return readdirSync(folder);
  } catch {
    return [];
  }
}
