/** A phone at the bench: what reading a whole tower asks of a thumb, and how soon the other screen shows it. */

import { LAN, newCode, startTrying } from '../scripts/phone-parts';
import { median, row } from './measure';

const PORT = 4797;
/** Width of a phone of today, CSS px and mm. */
const [PHONE_PX, PHONE_MM] = [390, 65];
const HEIGHT_PX = 844;
const TAPS = 48;

type Act = { rung: number; criterion: string; score: number | null };

export async function phone(): Promise<void> {
  const { server, browser, computer } = await startTrying(PORT, ['--lan', LAN]);
  try {
    const lan = server.address.replace('127.0.0.1', LAN);
    // What somebody really scored, so that the thumb goes where it would.
    const { acts } = (await (await fetch(`${server.address}/readings/1`)).json()) as {
      acts: Act[];
    };
    const given = new Map(acts.map((act) => [`${act.rung} ${act.criterion}`, act.score]));
    const context = await browser.newContext({
      viewport: { width: PHONE_PX, height: HEIGHT_PX },
      hasTouch: true,
      isMobile: true,
    });
    const page = await context.newPage();
    await page.goto(`${lan}/pair?code=${await newCode(computer)}`);
    const start = performance.now();
    await page.getByLabel('Your name').fill('Mara');
    await page.getByRole('button', { name: 'Let me in' }).tap();
    await page.getByRole('heading', { name: 'Next' }).waitFor();
    row(
      'letting a phone in',
      `${((performance.now() - start) / 1000).toFixed(1)} s after the code`,
    );
    await page.goto(`${lan}/ladder/1/read`);
    const keys = page.getByRole('group', { name: / at \d+ °C$/ });
    await keys.waitFor();
    await page.getByText(`0 / ${TAPS}`).waitFor();
    await computer.goto(
      `${server.address}/ladder/1/read?reading=${new URL(page.url()).searchParams.get('reading')}`,
    );
    await computer.getByText(`0 / ${TAPS}`).waitFor();

    const shown: number[] = [];
    let [way, scrolled, taps] = [0, 0, 0];
    let thumb: { x: number; y: number } | null = null;
    for (; taps < TAPS; taps++) {
      const criterion = /^(.*) at /.exec((await keys.getAttribute('aria-label'))!)![1]!;
      const score = given.get(`${Math.floor(taps / 6)} ${criterion}`) ?? null;
      const key = keys.getByRole('button').nth(score ?? 5);
      const box = (await key.boundingBox())!;
      const to = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
      if (thumb) way += Math.hypot(to.x - thumb.x, to.y - thumb.y);
      thumb = to;
      const tapped = performance.now();
      await key.tap();
      await computer.getByText(`${taps + 1} / ${TAPS}`).waitFor();
      shown.push(performance.now() - tapped);
      scrolled = Math.max(scrolled, await page.evaluate(() => window.scrollY));
    }
    await page.getByText(`${TAPS} of ${TAPS} are scored`).waitFor();
    shown.sort((a, b) => a - b);
    row(
      'reading a tower on a phone',
      `${taps} taps, the thumb goes ${Math.round(way)} px, ${((way / PHONE_PX) * (PHONE_MM / 1000)).toFixed(2)} m in all, ${((way / (TAPS - 1) / PHONE_PX) * PHONE_MM).toFixed(1)} mm a tap; scrolled by ${scrolled} px`,
    );
    row(
      '  until the other screen shows it',
      `median ${median(shown).toFixed(0)} ms, longest ${shown.at(-1)!.toFixed(0)} ms (budget 1000)`,
      shown.at(-1)! <= 1000,
    );
  } finally {
    await browser.close();
    await server.stop();
  }
}
