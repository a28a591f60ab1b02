/** Serves the built app on this machine alone, and to phones on the local network where that is asked for. */

import { spawn } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { isIP } from 'node:net';
import { bin, freePort, ROOT, run, say } from './bootstrap.mjs';

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

/** @param data folder of the database; made when it is not there */
export async function serve(data, { dev = false } = {}) {
  const phones = phonesFrom(process.argv.slice(2));
  mkdirSync(data, { recursive: true });
  run(bin('tsx'), ['scripts/check-store.ts', data]);
  const wanted = Number(process.env.PORT ?? DEFAULT_PORT);
  const port = await freePort(wanted);
  const child = spawn(
    'node',
    [
      '--expose-gc',
      'scripts/server.mjs',
      String(port),
      dev ? 'dev' : 'start',
      phones.open ? 'open' : 'shut',
      phones.address,
    ],
    {
      cwd: ROOT,
      stdio: ['ignore', 'ignore', 'inherit'],
      env: {
        ...process.env,
        NODE_ENV: dev ? 'development' : 'production',
        ASH_DATA: data,
        NEXT_TELEMETRY_DISABLED: '1',
      },
    },
  );
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal));
  child.on('exit', (code) => process.exit(code ?? 0));
  const address = `http://127.0.0.1:${port}`;
  for (let tries = 0; tries < 240; tries++) {
    const answers = await fetch(address).then(
      (r) => r.status < 500,
      () => false,
    );
    if (answers) {
      process.stdout.write(`Ash Ladder is at ${address}\n`);
      return;
    }
    await new Promise((resolve) => setTimeout(resolve, 250));
  }
  say(`The server did not answer at ${address}; what it said stands above.`);
  child.kill();
  process.exit(1);
}
