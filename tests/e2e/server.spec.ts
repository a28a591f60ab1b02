import { expect, test } from './base';
import Database from 'better-sqlite3';
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, rmSync, statSync } from 'node:fs';
import { connect, createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { newBench, newLadder, printIt } from './people';

/** Starts a server of its own; resolves when it has said where it is, or with its exit code. */
function start(
  env: Record<string, string>,
): Promise<{ said: string; code: number | null; stop: () => void }> {
  return new Promise((resolve) => {
    const child = spawn('node', ['scripts/start.mjs'], {
      env: { ...process.env, ...env },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    let said = '';
    const stop = () => child.kill('SIGTERM');
    const listen = (piece: Buffer) => {
      said += String(piece);
      if (said.includes('Ash Ladder is at')) resolve({ said, code: null, stop });
    };
    child.stdout.on('data', listen);
    child.stderr.on('data', listen);
    child.on('exit', (code) => resolve({ said, code, stop }));
  });
}

test('a busy port gets the next free one, and says so', async () => {
  const data = mkdtempSync(join(tmpdir(), 'ash-port-'));
  // Somebody else's port, far from those that other tests are served on.
  const port = 4791;
  const other = createServer().listen(port, '127.0.0.1');
  await once(other, 'listening');
  const { said, stop } = await start({ ASH_DATA: data, PORT: String(port), ASH_KEY: 'on' });
  expect(said).toContain(`Port ${port} is busy; taking ${port + 1}.`);
  // As on a computer with several accounts: the address brings a key, and a cookie remembers it.
  const [first = ''] = /http:\S+/.exec(said.slice(said.indexOf('Ash Ladder is at'))) ?? [];
  const address = `http://127.0.0.1:${port + 1}/`;
  expect(first).toMatch(/\?key=[0-9a-f]{32}$/);
  for (const wrong of [address, `${address}?key=${'0'.repeat(32)}`])
    expect((await fetch(wrong)).status).toBe(403);
  const visit = await fetch(first, { redirect: 'manual' });
  expect([visit.status, visit.headers.get('location')]).toEqual([303, '/']);
  const [cookie = ''] = visit.headers.get('set-cookie')!.split(';');
  const answer = await fetch(address, { headers: { cookie } });
  expect(await answer.text()).toContain('Set up a bench');
  // What is kept is the user's own.
  expect(statSync(data).mode & 0o077).toBe(0);
  expect(statSync(join(data, 'ash.sqlite')).mode & 0o077).toBe(0);
  // Nothing here speaks another protocol: who asks for one is answered, not left waiting.
  const upgrade = connect(port + 1, '127.0.0.1');
  upgrade.write(
    `GET /live HTTP/1.1\r\nHost: 127.0.0.1:${port + 1}\r\nConnection: Upgrade\r\nUpgrade: websocket\r\n\r\n`,
  );
  const [told] = (await once(upgrade, 'data')) as [Buffer];
  expect(String(told)).toContain('400 Bad Request');
  upgrade.destroy();
  stop();
  other.close();
  rmSync(data, { recursive: true, force: true });
});

test('a database from a newer program is refused before anything is served', async () => {
  const data = mkdtempSync(join(tmpdir(), 'ash-newer-'));
  const db = new Database(join(data, 'ash.sqlite'));
  db.pragma('user_version = 99');
  db.close();
  const { said, code } = await start({ ASH_DATA: data, PORT: '4799' });
  expect(code).toBe(1);
  expect(said).toMatch(/The database is of version 99; this program knows up to \d+\./);
  rmSync(data, { recursive: true, force: true });
});

test(
  'taps are kept all or none, and nonsense is refused',
  { tag: '@long' },
  async ({ page, request }) => {
    await newBench(page, 'Heron taps', 'Moss taps');
    await newLadder(page);
    await printIt(page);
    const asked = page.waitForRequest(/\/readings\/\d+(\?|$)/);
    await page.keyboard.press('3');
    const path = new URL((await asked).url()).pathname;
    const tap = { id: 'by hand', rung: 1, criterion: 'stringing', score: 2 };
    const post = (data: unknown) => request.post(path, { data });
    expect((await post({ acts: [tap], place: '{}' })).status()).toBe(200);
    for (const bad of [
      {
        acts: [
          { ...tap, id: 'x' },
          { ...tap, id: 'y', score: 9 },
        ],
        place: '{}',
      },
      { acts: [{ ...tap, id: 'x', criterion: 'taste' }] },
      { acts: [{ ...tap, id: 'x', rung: 99999 }] },
      { acts: [{ ...tap, id: 'x', rung: 7 }] },
      { acts: [{ ...tap, id: 'x', rung: 1.5 }] },
      { acts: [{ ...tap, id: 'x', rung: -1 }] },
      { acts: [{ ...tap, id: 'x', rung: 1e308 }] },
      { acts: 'many', place: '{}' },
      { steps: [] },
    ])
      expect((await post(bad)).status()).toBe(400);
    expect((await request.post('/readings/99999', { data: { acts: [] } })).status()).toBe(404);
    // Sent again because its answer was lost, it is kept once; so is its undo.
    const twice = await post({ acts: [tap, tap] });
    expect(((await twice.json()) as { acts: unknown[] }).acts).toHaveLength(2);
    await page.reload();
    await expect(page.getByText('2 / 42')).toBeVisible();
  },
);

test(
  'the picture of a file is a PNG, and a file is handed out under its own name',
  { tag: '@long' },
  async ({ page, request }) => {
    await newBench(page, 'Heron files', 'Moss files');
    await newLadder(page);
    await page.getByRole('button', { name: 'Generate file' }).click();
    const href = await page.getByRole('link', { name: 'Download' }).getAttribute('href');
    const file = await request.get(href!);
    expect(file.headers()['content-disposition']).toContain(
      'heron-files-0.4-moss-files_temperature_220-190-by-5.gcode',
    );
    const picture = await request.get(`${href}/picture`);
    expect(picture.headers()['content-type']).toBe('image/png');
    expect((await picture.body()).subarray(1, 4).toString()).toBe('PNG');
  },
);
