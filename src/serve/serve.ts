/** Serves the built app on this machine alone, and to phones on the local network where that is asked for. */

import { spawn, type ChildProcess } from 'node:child_process';
import { chmodSync, existsSync, mkdirSync, readdirSync, readFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { problemLine } from '../core/result';
import { accountsIn, keyIn } from '../lan/key';
import { migrationsIn, openStore } from '../store/open';
import { bundle, home, MIGRATIONS } from './home';
import { keepUp } from './keep-up';
import { socketFor } from './socket-path';

export const say = (text: string): void => void process.stderr.write(`${text}\n`);

/** Ports that are tried where one is busy. */
const MOST_PORTS = 50;
/** Longest that the server may take until it answers, ms. */
const LONGEST_START_MS = 120_000;
const LOOK_MS = 50;

/** A process of the program, from its bundle; what it says goes to standard error. */
const start = (name: string, args: string[], env: NodeJS.ProcessEnv, flags: string[] = []) =>
  spawn(process.execPath, [...flags, bundle(name), ...args], {
    cwd: home(),
    stdio: ['ignore', 'ignore', 'inherit'],
    env,
  });

/** Simulated machines, each on a port of its own. @returns where they are, as JSON */
function standIns(env: NodeJS.ProcessEnv): Promise<string> {
  const child: ChildProcess = spawn(process.execPath, [bundle('understudy'), '--all'], {
    cwd: home(),
    stdio: ['pipe', 'pipe', 'inherit'],
    env,
  });
  process.on('exit', () => child.kill());
  return new Promise((resolve) =>
    child.stdout!.once('data', (text) => resolve(String(text).trim())),
  );
}

const isFree = (port: number): Promise<boolean> =>
  new Promise((resolve) => {
    const probe = createServer();
    probe.once('error', () => resolve(false));
    probe.listen(port, '127.0.0.1', () => probe.close(() => resolve(true)));
  });

/** The wanted port, or the next free one; null where all are busy. */
async function freePort(wanted: number): Promise<number | null> {
  for (let port = wanted; port < wanted + MOST_PORTS; port++) if (await isFree(port)) return port;
  return null;
}

/**
 * Whether the first address needs its key: where several accounts can log in on this computer, or as `ASH_KEY` says,
 * `on` or `off`.
 */
function isKeyed(): boolean {
  if (process.env.ASH_KEY === 'on' || process.env.ASH_KEY === 'off')
    return process.env.ASH_KEY === 'on';
  const passwd = '/etc/passwd';
  return existsSync(passwd) && accountsIn(readFileSync(passwd, 'utf8')) > 1;
}

/** Opens an address in the browser of whoever started this; where there is none, it stands printed. */
function openInBrowser(address: string): void {
  const command = process.platform === 'darwin' ? 'open' : 'xdg-open';
  spawn(command, [address], { stdio: 'ignore', detached: true })
    .on('error', () => undefined)
    .unref();
}

/** Makes the folder of the data the user's own, and its database as new as the program. @returns whether it can be used */
function madeReady(data: string): boolean {
  // What is kept is the user's own: nobody else on this computer reads it.
  process.umask(0o077);
  mkdirSync(data, { recursive: true });
  chmodSync(data, 0o700);
  for (const name of readdirSync(data))
    if (/^ash\.sqlite/.test(name)) chmodSync(join(data, name), 0o600);
  const migrations = migrationsIn(join(home(), MIGRATIONS));
  const opened = openStore(join(data, 'ash.sqlite'), migrations, { says: say });
  if (opened.ok) opened.value.close();
  else for (const one of opened.problems) say(problemLine(one));
  return opened.ok;
}

export type Wishes = {
  /** Folder of the database; made when it is not there. */
  data: string;
  port: number;
  /** Whether the door of phones is open from the start, and the one address it listens on; '' for all. */
  phones: { open: boolean; address: string };
  /** Whether simulated machines stand ready on the wire. */
  understudies: boolean;
  /** Whether it is opened in a browser. */
  open: boolean;
  dev: boolean;
};

/** @returns null while it serves, or the exit code with everything said */
export async function serve(wishes: Wishes): Promise<number | null> {
  const { data, phones, dev } = wishes;
  if (!madeReady(data)) return 1;
  const port = await freePort(wishes.port);
  if (port === null) {
    say(
      `Ports ${wishes.port} to ${wishes.port + MOST_PORTS - 1} are all busy. Choose another with --port.`,
    );
    return 1;
  }
  if (port !== wishes.port) say(`Port ${wishes.port} is busy; taking ${port}.`);
  const socket = socketFor(data);
  const keyed = isKeyed();
  const env: NodeJS.ProcessEnv = {
    ...process.env,
    ASH_KEYED: keyed ? 'yes' : 'no',
    NODE_ENV: dev ? 'development' : 'production',
    ASH_DATA: data,
    ASH_LINK: socket,
    NEXT_TELEMETRY_DISABLED: '1',
  };
  if (wishes.understudies) env.ASH_UNDERSTUDIES = await standIns(env);
  // The link has a process of its own: a print goes on when the server ends, and nothing that it computes starves one.
  const link = keepUp(() => start('link', [join(data, 'ash.sqlite'), socket], env));
  const args = [String(port), dev ? 'dev' : 'start', phones.open ? 'open' : 'shut', phones.address];
  const server = keepUp(() => start('server', args, env, ['--expose-gc']));
  const end = (signal: NodeJS.Signals) => Promise.all([server.end(signal), link.end(signal)]);
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const)
    // What prints is stopped and cooled first: the link ends when that is done.
    process.on(signal, () => void end(signal).then(() => process.exit(0)));
  void link.gaveUp.then(() =>
    say('The part that talks to machines ends again and again; everything else works without it.'),
  );
  void server.gaveUp.then((code) => end('SIGTERM').then(() => process.exit(code)));
  const address = `http://127.0.0.1:${port}`;
  const until = Date.now() + LONGEST_START_MS;
  while (Date.now() < until) {
    const answers = await fetch(address).then(
      (r) => r.status < 500,
      () => false,
    );
    if (answers) {
      const first = keyed ? `${address}/?key=${keyIn(data)}` : address;
      process.stdout.write(`Ash Ladder is at ${first}\n`);
      if (wishes.open) openInBrowser(first);
      return null;
    }
    await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
  }
  say(`The server did not answer at ${address}; what it said stands above.`);
  await end('SIGTERM');
  return 1;
}
