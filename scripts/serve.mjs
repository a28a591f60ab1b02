/** Serves the built app on this machine alone, and to phones on the local network where that is asked for. */

import { spawn } from 'node:child_process';
import { chmodSync, existsSync, mkdirSync, readdirSync, readFileSync } from 'node:fs';
import { isIP } from 'node:net';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { tsImport } from 'tsx/esm/api';
import { bin, freePort, ROOT, run, say } from './bootstrap.mjs';
import { socketFor } from './socket-path.mjs';

const DEFAULT_PORT = 4710;

/**
 * What is said about phones: whether their door is open from the start (`--lan`), and the one address it listens on
 * (`--lan ADDRESS`, or `ASH_LAN`, which opens nothing by itself); none for every one that a phone could use. Ends the
 * program on wrong use.
 */
function phonesFrom(argv) {
  const at = argv.findIndex((one) => one === '--lan' || one.startsWith('--lan='));
  const [, joined = ''] = at === -1 ? [] : argv[at].split('=');
  const next = argv[at + 1];
  const told = joined || (at !== -1 && next && !next.startsWith('-') ? next : '');
  const address = told || (process.env.ASH_LAN ?? '');
  if (address === '' || (isIP(address) > 0 && !/^(0\.0\.0\.0|::)$/.test(address)))
    return { open: at !== -1, address };
  say(
    `${told ? '--lan' : 'ASH_LAN'}: “${address}” is no address of one connection. Give one of this computer, such as --lan 192.168.1.5, or none to listen on every one that a phone could use.`,
  );
  process.exit(2);
}

/** More ends than these within a minute are no accident. */
const MOST_ENDS = 5;
const MINUTE_MS = 60_000;

/** Starts a process again when it ends by itself. */
function keepUp(start) {
  let child = start();
  let ending = false;
  let gone;
  const ends = [];
  const gaveUp = new Promise((resolve) => {
    const watch = () =>
      child.on('exit', (code) => {
        gone?.();
        if (ending) return;
        const now = Date.now();
        ends.push(now);
        if (ends.filter((at) => now - at < MINUTE_MS).length > MOST_ENDS) return resolve(code ?? 1);
        child = start();
        watch();
      });
    watch();
  });
  return {
    gaveUp,
    end(signal) {
      ending = true;
      if (child.exitCode !== null || child.signalCode !== null) return Promise.resolve();
      const ended = new Promise((resolve) => (gone = resolve));
      child.kill(signal);
      return ended;
    },
  };
}

/** Simulated machines, each on a port of its own. @returns where they are, as JSON */
function standIns(env) {
  const child = spawn('node', ['--import', 'tsx', 'scripts/understudy.ts', '--all'], {
    cwd: ROOT,
    stdio: ['pipe', 'pipe', 'inherit'],
    env,
  });
  process.on('exit', () => child.kill());
  return new Promise((resolve) =>
    child.stdout.once('data', (text) => resolve(String(text).trim())),
  );
}

/** Whether a database can be opened and needs nothing more: whatever else is the matter, check-store.ts says in words. */
function isUpToDate(path) {
  if (!existsSync(path)) return false;
  const newest = readdirSync(join(ROOT, 'src/store/migrations'))
    .map((name) => Number(name.slice(0, 4)))
    .reduce((most, version) => Math.max(most, version), 0);
  try {
    const db = new Database(path, { readonly: true });
    const version = db.pragma('user_version', { simple: true });
    db.close();
    return version === newest;
  } catch {
    return false;
  }
}

const keys = () => tsImport('../src/lan/key.ts', import.meta.url);

/**
 * Whether the first address needs its key: where several accounts can log in on this computer, or as `ASH_KEY` says,
 * `on` or `off`.
 */
async function isKeyed() {
  if (process.env.ASH_KEY === 'on' || process.env.ASH_KEY === 'off')
    return process.env.ASH_KEY === 'on';
  const passwd = '/etc/passwd';
  if (!existsSync(passwd)) return false;
  return (await keys()).accountsIn(readFileSync(passwd, 'utf8')) > 1;
}

/** Opens an address in the browser of whoever started this; where there is none, it stands printed. */
function openInBrowser(address) {
  const command = process.platform === 'darwin' ? 'open' : 'xdg-open';
  spawn(command, [address], { stdio: 'ignore', detached: true })
    .on('error', () => undefined)
    .unref();
}

/**
 * @param data folder of the database; made when it is not there
 * @param understudies whether simulated machines stand ready on the wire
 */
export async function serve(data, { dev = false, understudies = false } = {}) {
  const phones = phonesFrom(process.argv.slice(2));
  // What is kept is the user's own: nobody else on this computer reads it.
  process.umask(0o077);
  mkdirSync(data, { recursive: true });
  chmodSync(data, 0o700);
  for (const name of readdirSync(data))
    if (/^ash\.sqlite/.test(name)) chmodSync(join(data, name), 0o600);
  if (!isUpToDate(join(data, 'ash.sqlite'))) run(bin('tsx'), ['scripts/check-store.ts', data]);
  const wanted = Number(process.env.PORT ?? DEFAULT_PORT);
  const port = await freePort(wanted);
  const socket = socketFor(data);
  const keyed = await isKeyed();
  const env = {
    ...process.env,
    ASH_KEYED: keyed ? 'yes' : 'no',
    NODE_ENV: dev ? 'development' : 'production',
    ASH_DATA: data,
    ASH_LINK: socket,
    NEXT_TELEMETRY_DISABLED: '1',
  };
  if (understudies) env.ASH_UNDERSTUDIES = await standIns(env);
  // The link has a process of its own: a print goes on when the server ends, and nothing that it computes starves one.
  const link = keepUp(() =>
    spawn('node', ['--import', 'tsx', 'src/link/main.ts', join(data, 'ash.sqlite'), socket], {
      cwd: ROOT,
      stdio: ['ignore', 'ignore', 'inherit'],
      env,
    }),
  );
  const server = keepUp(() =>
    spawn(
      'node',
      [
        '--expose-gc',
        'scripts/server.mjs',
        String(port),
        dev ? 'dev' : 'start',
        phones.open ? 'open' : 'shut',
        phones.address,
      ],
      { cwd: ROOT, stdio: ['ignore', 'ignore', 'inherit'], env },
    ),
  );
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
    process.on(signal, () => {
      // What prints is stopped and cooled first: the link ends when that is done.
      void Promise.all([server.end(signal), link.end(signal)]).then(() => process.exit(0));
    });
  void link.gaveUp.then(() =>
    say('The part that talks to machines ends again and again; everything else works without it.'),
  );
  void server.gaveUp.then(async (code) => {
    await Promise.all([server.end('SIGTERM'), link.end('SIGTERM')]);
    process.exit(code);
  });
  const address = `http://127.0.0.1:${port}`;
  for (let tries = 0; tries < 240; tries++) {
    const answers = await fetch(address).then(
      (r) => r.status < 500,
      () => false,
    );
    if (answers) {
      const first = keyed ? `${address}/?key=${(await keys()).keyIn(data)}` : address;
      process.stdout.write(`Ash Ladder is at ${first}\n`);
      if (process.argv.includes('--open')) openInBrowser(first);
      return;
    }
    await new Promise((resolve) => setTimeout(resolve, 250));
  }
  say(`The server did not answer at ${address}; what it said stands above.`);
  await Promise.all([server.end('SIGTERM'), link.end('SIGTERM')]);
  process.exit(1);
}
