import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { FILAMENTS, MACHINES } from '../core/bench/presets';
import { seeded } from '../core/random';
import { good, makeTemperature } from '../core/testing';
import { benches } from './benches';
import { files, ladders, prints } from './ladders';
import { migrationsIn, openStore } from './open';
import { readings } from './readings';
import { filaments, machines } from './things';

const KILLS = 8;
/** A killed writer has said its first tap within this time, and is killed within the next, ms. */
const LONGEST_RUN_MS = 60;

const MIGRATIONS = migrationsIn('src/store/migrations');

/** Starts a writer, kills it in the middle of its work. @returns the last tap that it said was kept */
function writeAndDie(path: string, reading: number, afterMs: number): Promise<number> {
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, ['dist/testing/write-on.js', path, String(reading)], {
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    let said = '';
    child.stdout.on('data', (piece) => {
      if (said === '') setTimeout(() => child.kill('SIGKILL'), afterMs);
      said += piece;
    });
    child.on('close', (_, signal) => {
      const whole = said.slice(0, said.lastIndexOf('\n')).split('\n');
      if (signal === 'SIGKILL') resolve(Number(whole.at(-1)));
      else reject(new Error(`the writer ended by itself after saying ${whole.length} taps`));
    });
  });
}

test(`a writer killed ${KILLS} times loses no tap that it said was kept`, async () => {
  const folder = mkdtempSync(join(tmpdir(), 'ash-kill-'));
  const path = join(folder, 'ash.sqlite');
  const random = seeded(77);
  const db = good(openStore(path, MIGRATIONS));
  const bench = benches(db).join(
    machines(db).add(MACHINES.heron),
    0.4,
    filaments(db).add(FILAMENTS.moss),
    '',
  );
  const ladder = ladders(db).add({
    benchId: bench,
    kind: 'temperature',
    spec: {},
    weights: {},
    createdAt: '',
  });
  const made = makeTemperature({ from: 205, to: 205 });
  const print = prints(db).add(files(db).keep(ladder, made.text, made.plan, ''), '');
  const ids = Array.from({ length: KILLS }, () => readings(db).start(print, '', ''));
  db.close();
  let kept = 0;
  for (const reading of ids) {
    const last = await writeAndDie(path, reading, random() * LONGEST_RUN_MS);
    const again = good(openStore(path, MIGRATIONS));
    expect(again.pragma('integrity_check', { simple: true })).toBe('ok');
    const acts = readings(again).answered(reading);
    expect(acts.length).toBeGreaterThanOrEqual(last + 1);
    kept += last + 1;
    again.close();
  }
  expect(kept).toBeGreaterThan(KILLS);
  rmSync(folder, { recursive: true, force: true });
}, 300_000);
