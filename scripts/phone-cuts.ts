/**
 * `npm run cuts -- --runs 50`: a phone scores a whole tower in each run, in a real browser, through a connection that
 * is cut at random: before the program hears of an act, after it has, in the middle of an answer, and for a while.
 * Everything that was tapped must be in the store once, in the order in which it was tapped. Prints its count.
 */

import Database from 'better-sqlite3';
import { createServer, request, type IncomingMessage, type ServerResponse } from 'node:http';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { seeded, type Random } from '../src/core/random';
import { LAN, newCode, numberAsked, startTrying } from './phone-parts';

const RUNS = numberAsked('runs', 50);
const PORT = 4794;
const CELLS = 48;
/** How often a request is cut, and how often the connection is then gone for a while. */
const [CUT_SHARE, AWAY_SHARE] = [0.3, 0.15];
const LONGEST_AWAY_MS = 1500;
/** Longest that everything may take to arrive once the connection holds, ms. */
const ARRIVES_MS = 60_000;

/** A forward proxy that loses connections. What is cut: `before` it was passed on, or `after` it was answered. */
class Cutter {
  cuts = 0;
  /** Names of acts that were acknowledged: their answer was passed on whole. */
  readonly acknowledged = new Set<string>();
  on = false;
  private awayUntil = 0;
  private readonly server = createServer((asked, answer) => this.pass(asked, answer));

  constructor(private readonly random: Random) {}

  async open(): Promise<string> {
    await new Promise<void>((resolve) => this.server.listen(0, '127.0.0.1', resolve));
    return `http://127.0.0.1:${(this.server.address() as { port: number }).port}`;
  }
  close(): void {
    this.server.close();
    this.server.closeAllConnections();
  }

  private pass(asked: IncomingMessage, answer: ServerResponse): void {
    const cut = this.on && this.random() < CUT_SHARE;
    if (cut && this.random() < AWAY_SHARE)
      this.awayUntil = Date.now() + this.random() * LONGEST_AWAY_MS;
    const how = (['before', 'after', 'within'] as const)[Math.floor(this.random() * 3)];
    if ((this.on && Date.now() < this.awayUntil) || (cut && how === 'before'))
      return this.cut(asked);
    const to = new URL(asked.url!);
    const body: Buffer[] = [];
    asked.on('data', (piece: Buffer) => body.push(piece));
    asked.on('end', () => {
      const passed = request(
        {
          host: to.hostname,
          port: to.port,
          path: to.pathname + to.search,
          method: asked.method,
          headers: asked.headers,
        },
        (told) => {
          if (cut && how === 'after') {
            told.resume();
            return void told.on('end', () => this.cut(asked));
          }
          answer.writeHead(told.statusCode!, told.headers);
          told.on('data', (piece: Buffer) => {
            if (cut && how === 'within') return this.cut(asked);
            answer.write(piece);
          });
          told.on('end', () => {
            answer.end();
            if (!cut && told.statusCode === 200) this.note(asked, Buffer.concat(body));
          });
        },
      );
      passed.on('error', () => this.cut(asked));
      answer.on('close', () => passed.destroy());
      passed.end(Buffer.concat(body));
    });
  }
  private cut(asked: IncomingMessage): void {
    this.cuts++;
    asked.socket.destroy();
  }
  private note({ method, url }: IncomingMessage, body: Buffer): void {
    if (method !== 'POST' || !/\/readings\/\d+$/.test(url!)) return;
    const { acts } = JSON.parse(body.toString()) as { acts: { id: string }[] };
    for (const { id } of acts) this.acknowledged.add(id);
  }
}

type Row = { uid: string; rung: number; criterion: string; score: number | null };

/** Scores every cell of a new reading. @returns the reading, and what was tapped */
async function readOnce(phone: Page, address: string, random: Random, cutter: Cutter) {
  cutter.on = false;
  await phone.goto(`${address}/ladder/1/read`);
  await phone.getByText('more readings').tap();
  const before = phone.url();
  await phone.getByRole('button', { name: 'Score the same print again' }).tap();
  await phone.waitForURL((url) => url.href !== before && url.searchParams.has('reading'));
  const reading = Number(new URL(phone.url()).searchParams.get('reading'));
  const keys = phone.getByRole('group', { name: / at \d+ °C$/ });
  await keys.first().waitFor();
  cutter.on = true;
  const tapped: string[] = [];
  for (let cell = 0; cell < CELLS; cell++) {
    const at = (await keys.getAttribute('aria-label'))!;
    const score = Math.floor(random() * 6);
    await keys.getByRole('button').nth(score).tap();
    tapped.push(`${at}: ${score === 5 ? '?' : score}`);
    if (random() < 0.1) await phone.waitForTimeout(random() * 400);
    if (random() < 0.02) {
      // Somebody closes the page in the middle of it, and opens it again where there is reception.
      cutter.on = false;
      await phone.reload();
      await keys.first().waitFor();
      cutter.on = true;
    }
  }
  cutter.on = false;
  await phone.waitForFunction(
    () => !Object.keys(localStorage).some((key) => key.startsWith('ash-act ')),
    undefined,
    { timeout: ARRIVES_MS },
  );
  return { reading, tapped };
}

const { server, browser, computer } = await startTrying(PORT, ['--lan', LAN]);
const random = seeded(numberAsked('seed', 1));
const cutter = new Cutter(random);
let taps = 0;
const wrong: string[] = [];
try {
  const address = server.address.replace('127.0.0.1', LAN);
  const context = await browser.newContext({
    viewport: { width: 390, height: 844 },
    hasTouch: true,
    isMobile: true,
    proxy: { server: await cutter.open(), bypass: '<-loopback>' },
  });
  const phone = await context.newPage();
  await phone.goto(`${address}/pair?code=${await newCode(computer)}`);
  await phone.getByLabel('Your name').fill('Mara');
  await phone.getByRole('button', { name: 'Let me in' }).tap();
  await phone.getByRole('heading', { name: 'Next' }).waitFor();
  const db = new Database(join(server.data, 'ash.sqlite'), { readonly: true });
  const valueOf = db.prepare(
    `select uid, rung, criterion, score from score_act where reading_id = ? order by id`,
  );
  const rungNames = [225, 220, 215, 210, 205, 200, 195, 190];
  for (let run = 1; run <= RUNS; run++) {
    const { reading, tapped } = await readOnce(phone, address, random, cutter);
    const rows = valueOf.all(reading) as Row[];
    const stored = rows.map(
      ({ rung, criterion, score }) => `${criterion} at ${rungNames[rung]} °C: ${score ?? '?'}`,
    );
    taps += tapped.length;
    if (JSON.stringify(stored) !== JSON.stringify(tapped))
      wrong.push(`run ${run}: ${tapped.length} tapped, ${stored.length} in the store`);
    if (new Set(rows.map(({ uid }) => uid)).size !== rows.length)
      wrong.push(`run ${run}: an act is there twice`);
    process.stdout.write(`run ${run}: ${stored.length} acts, ${cutter.cuts} cuts so far\n`);
  }
  const all = new Set(
    (db.prepare(`select uid from score_act`).all() as Row[]).map(({ uid }) => uid),
  );
  const lost = [...cutter.acknowledged].filter((id) => !all.has(id));
  if (lost.length > 0) wrong.push(`${lost.length} acknowledged acts are not in the store`);
  db.close();
} finally {
  await browser.close();
  cutter.close();
  await server.stop();
}
process.stdout.write(
  `${RUNS} runs, ${taps} taps, ${cutter.cuts} cuts, ${cutter.acknowledged.size} acts acknowledged: ${
    wrong.length === 0 ? 'all in the store, once, in order' : 'FAULTS'
  }\n${wrong.map((one) => `${one}\n`).join('')}`,
);
process.exit(wrong.length === 0 ? 0 : 1);
