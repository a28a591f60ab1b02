/** Serves the built app on this machine alone. */

import { spawn } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { bin, freePort, ROOT, run, say } from './bootstrap.mjs';

const DEFAULT_PORT = 4710;

/** @param data folder of the database; made when it is not there */
export async function serve(data, { dev = false } = {}) {
  mkdirSync(data, { recursive: true });
  run(bin('tsx'), ['scripts/check-store.ts', data]);
  const wanted = Number(process.env.PORT ?? DEFAULT_PORT);
  const port = await freePort(wanted);
  const child = spawn(
    'node',
    ['--expose-gc', 'scripts/server.mjs', String(port), dev ? 'dev' : 'start'],
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
