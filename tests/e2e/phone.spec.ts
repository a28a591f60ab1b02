// A phone at the bench: let in with a code, scoring through a bad connection, taking pictures, and put out again. All
// of it through the door of phones, on a loopback address of its own.
import { expect, test, type Browser, type BrowserContext, type Page } from '@playwright/test';
import sharp from 'sharp';
import { ownServer, type OwnServer } from './own-server';
import { progress } from './people';

const LAN = '127.0.0.2';
const RUNGS = 8;
const CRITERIA = 6;
const PHONE = { viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true };

let server: OwnServer;
let lan = '';
let open: BrowserContext[] = [];
test.beforeAll(async () => {
  server = await ownServer('demo', 4788, { args: ['--lan', LAN], speed: 2000 });
  lan = server.address.replace('127.0.0.1', LAN);
});
test.afterAll(() => server.stop());
test.afterEach(async () => {
  await Promise.all(open.map((one) => one.close()));
  open = [];
});

/** A page at the computer. */
async function atComputer(browser: Browser, path: string): Promise<Page> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  open.push(context);
  const page = await context.newPage();
  await page.goto(server.address + path);
  return page;
}

/** Has a code shown at the computer, and reads it there. */
async function codeOn(computer: Page): Promise<string> {
  const name = computer.getByLabel('Who scores at this computer?');
  const show = computer.getByRole('button', { name: 'Show a code' });
  await expect(name.or(show).first()).toBeVisible();
  if (!(await show.isVisible())) {
    await name.fill('Ines');
    await computer.getByRole('button', { name: 'Save name' }).click();
  }
  await show.click();
  const code = computer.getByLabel(/^Code \d{6}$/);
  await expect(code).toBeVisible();
  return (await code.innerText()).replace(/\D/g, '');
}

/** A phone that is let in, at the page it asked for. */
async function letIn(
  browser: Browser,
  computer: Page,
  reader: string,
  path: string,
): Promise<{ phone: Page; context: BrowserContext }> {
  const context = await browser.newContext(PHONE);
  open.push(context);
  const phone = await context.newPage();
  const answer = await phone.goto(lan + path);
  expect(answer!.status()).toBe(403);
  await expect(phone.getByRole('heading', { name: 'This device is not let in' })).toBeVisible();
  await phone.getByLabel('Code').fill(await codeOn(computer));
  await phone.getByLabel('Your name').fill(reader);
  await phone.getByLabel('Name of this device').fill(`${reader}’s phone`);
  await phone.getByRole('button', { name: 'Let me in' }).tap();
  await expect(phone.getByRole('heading', { name: 'not let in' })).toBeHidden();
  // To score, each has a reading of their own.
  if (path.endsWith('/read'))
    await expect(phone.getByText(`print 2, ${reader} · more readings`)).toBeVisible();
  return { phone, context };
}

const pad = (phone: Page) => phone.getByRole('group', { name: / at \d+ °C$/ });
const tapScore = (phone: Page, score: number) =>
  pad(phone)
    .getByRole('button', { name: new RegExp(`^${score} `) })
    .tap();
const readingOf = (page: Page): string => new URL(page.url()).searchParams.get('reading')!;

const picture = () =>
  sharp({ create: { width: 1200, height: 900, channels: 3, background: '#7d8f3a' } })
    .jpeg()
    .toBuffer()
    .then((buffer) => ({ name: 'print.jpg', mimeType: 'image/jpeg', buffer }));

test('a whole tower is read on a phone while the network comes and goes', async ({ browser }) => {
  const computer = await atComputer(browser, '/phones');
  const { phone, context } = await letIn(browser, computer, 'Mara', '/ladder/1/read');
  await expect(computer.getByText('Mara’s phone, scores by Mara')).toBeVisible();
  const reading = readingOf(phone);
  // The same reading is open at the computer: what is scored here shows there, without anything being pressed.
  const watching = await atComputer(browser, `/ladder/1/read?reading=${reading}`);
  await expect(progress(watching)).toHaveText('0 / 48');

  const waits = phone.getByText('The program does not answer.');
  for (let cell = 0; cell < RUNGS * CRITERIA; cell++) {
    // Three times it is lost for some taps, once with a picture among them.
    const cut = [5, 20, 40].includes(cell);
    if (cut) await context.setOffline(true);
    if (cell === 22)
      await phone.getByLabel('Take a picture', { exact: true }).setInputFiles(await picture());
    await tapScore(phone, Math.floor(cell / CRITERIA) % 5);
    await expect(progress(phone)).toHaveText(`${cell + 1} / 48`);
    if ([8, 25, 44].includes(cell)) {
      await expect(waits).toBeVisible();
      if (cell === 25) {
        await expect(phone.getByText(/changes and one picture wait/)).toBeVisible();
        await expect(phone.getByLabel('Picture 1, waits to be sent')).toBeVisible();
      }
      await context.setOffline(false);
      await expect(waits).toBeHidden();
      await expect(progress(watching)).toHaveText(`${cell + 1} / 48`);
    }
  }
  await expect(phone.getByText('That was the last one. 48 of 48 are scored.')).toBeVisible();
  // A tap too many overwrites nothing.
  await expect(pad(phone)).toHaveCount(1);
  for (const key of await pad(phone).getByRole('button').all()) await expect(key).toBeDisabled();
  expect(await phone.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);

  // Everything is in the store, once, and the picture stands beside the rungs on the computer too.
  await expect(progress(watching)).toHaveText('48 / 48');
  const kept = (await (
    await computer.request.get(`${server.address}/readings/${reading}`)
  ).json()) as {
    acts: { rung: number; criterion: string; score: number }[];
  };
  expect(new Set(kept.acts.map(({ rung, criterion }) => `${rung} ${criterion}`)).size).toBe(48);
  expect(kept.acts.every(({ rung, score }) => score === rung % 5)).toBe(true);
  await expect(phone.getByLabel('Picture 1 by Mara, enlarge')).toBeVisible();
  await watching.getByLabel('Picture 1 by Mara, enlarge').click();
  const shown = watching.getByRole('dialog').getByRole('img');
  await expect.poll(() => shown.evaluate((img: HTMLImageElement) => img.naturalWidth)).toBe(1200);
  await watching.getByRole('button', { name: 'Close' }).click();

  await phone.getByRole('link', { name: 'See the finding' }).tap();
  await expect(phone.getByText('From 2 prints, 3 readings.')).toBeVisible();

  // Put out at the computer, the open page goes at once, and says a plain word.
  await computer.getByRole('button', { name: 'Remove access of Mara’s phone of Mara' }).click();
  await expect(phone.getByRole('heading', { name: 'This device is not let in' })).toBeVisible();
  await expect(phone.getByText('it was put out on the computer')).toBeVisible();
  await expect(computer.getByText('No device has been let in yet.')).toBeVisible();
  expect((await phone.goto(`${lan}/bench/1`))!.status()).toBe(403);
});

test(
  'two phones read one print apart, and the finding shows where they disagree',
  { tag: '@long' },
  async ({ browser }) => {
    const computer = await atComputer(browser, '/phones');
    const tess = await letIn(browser, computer, 'Tess', '/ladder/1/read');
    const ivo = await letIn(browser, computer, 'Ivo', '/ladder/1/read');
    for (const { phone } of [tess, ivo])
      // A page that has only just come may not hear the first tap.
      await expect(async () => {
        await phone.getByLabel('Rung 200 °C').tap();
        await expect(pad(phone)).toHaveAttribute('aria-label', 'stringing at 200 °C', {
          timeout: 1000,
        });
      }).toPass();
    await tapScore(tess.phone, 4);
    await tapScore(ivo.phone, 0);
    await expect(pad(ivo.phone)).toHaveAttribute('aria-label', 'overhang at 200 °C');
    await ivo.phone.getByRole('link', { name: 'Finding' }).tap();
    const differ = ivo.phone.getByRole('region', { name: 'Where readers differ' });
    await expect(differ).toContainText('stringing at 200 °C');
    await expect(differ).toContainText('Tess 4 clean');
    await expect(differ).toContainText('Ivo 0 fails');

    // At the computer it is said whose scores are open, and one's own are a press away.
    await computer.goto(`${server.address}/ladder/1/read?reading=${readingOf(tess.phone)}`);
    await expect(computer.getByText('These are the scores of Tess.')).toBeVisible();
    await computer.getByRole('link', { name: 'Score it yourself' }).click();
    await expect(progress(computer)).toHaveText('48 / 48');
    await expect(computer.getByText('These are the scores of')).toBeHidden();
    await computer.goto(`${server.address}/phones`);

    // What a device may not do is said in words, until it is allowed at the computer.
    await ivo.phone.goto(`${lan}/things`);
    await ivo.phone
      .getByRole('button', { name: /^Archive/ })
      .first()
      .tap({ force: true });
    await expect(
      ivo.phone.getByText('This device may not archive or change things.').first(),
    ).toBeVisible();
    await computer
      .getByRole('listitem')
      .filter({ hasText: 'Ivo’s phone' })
      .getByLabel('may also archive')
      .check();
    await ivo.phone.reload();
    await ivo.phone
      .getByRole('button', { name: /^Archive/ })
      .first()
      .tap();
    await expect(ivo.phone.getByText('is in the archive')).toBeVisible();
  },
);

test('the code beside a reading opens that very reading on the phone, and a print is watched and stopped there', async ({
  browser,
}) => {
  const computer = await atComputer(browser, '/phones');
  // Whoever scores at the computer has a phone too.
  const { phone } = await letIn(browser, computer, 'Ines', '/bench/1');
  await expect(phone.getByRole('heading', { name: 'Next' })).toBeInViewport();

  await computer.goto(`${server.address}/ladder/1/read`);
  await expect(progress(computer)).toBeVisible();
  await computer.getByRole('button', { name: 'Score it on the phone' }).click();
  const words = await computer.getByText(`${lan.slice(7)}/join/`).innerText();
  await computer.getByRole('button', { name: 'Close' }).click();
  await phone.goto(words.trim());
  await expect(phone).toHaveURL(new RegExp(`/ladder/1/read\\?reading=${/\d+$/.exec(words)![0]}`));
  await phone.getByLabel('Rung 190 °C').tap();
  await tapScore(phone, 1);
  await expect(computer.getByRole('button', { name: 'stringing at 190 °C: 1' })).toBeVisible();
  await computer.getByRole('button', { name: 'stringing at 190 °C: 1' }).click();
  await computer.keyboard.press('3');
  await expect(phone.getByRole('button', { name: 'stringing at 190 °C: 3' })).toBeVisible();

  await phone.goto(`${lan}/ladder/1/print`);
  await computer.goto(`${server.address}/ladder/1/print`);
  // The file comes only when the print has been stopped: else it might be finished before.
  let hand = () => {};
  const asked = new Promise<void>((done) => (hand = done));
  await computer.route('**/files/*', (route) => asked.then(() => route.continue()));
  await computer.getByRole('button', { name: 'Print on the understudy' }).click();
  await expect(phone.getByText('Printing on another screen')).toBeVisible();
  await phone.getByRole('button', { name: 'Stop' }).tap();
  await expect(computer.getByRole('button', { name: 'Print on the understudy' })).toBeVisible();
  await expect(phone.getByRole('button', { name: 'Print on the understudy' })).toBeVisible();
  hand();
});

test(
  'a print on the wire is watched on a phone and stopped there; it starts nothing and heats nothing',
  { tag: '@long' },
  async ({ browser }) => {
    const computer = await atComputer(browser, '/phones');
    const { phone } = await letIn(browser, computer, 'Tove', '/bench/1/machine');
    await computer.goto(`${server.address}/bench/1/machine`);
    await computer.getByRole('button', { name: 'Simulated: Calm day' }).click();
    await expect(computer.getByRole('table')).toBeVisible();
    // It sees what the computer has connected, but may not heat.
    await phone.getByText('Heat …').tap();
    await phone.getByRole('button', { name: 'Heat', exact: true }).tap({ force: true });
    await expect(phone.getByText('This device may not heat or start anything.')).toBeVisible();
    await computer.goto(`${server.address}/ladder/1/print`);
    // So slow that it is still printed when the phone looks.
    server.pace(8, 2000);
    await computer.getByRole('button', { name: 'Print on Heron, simulated' }).click();
    await phone.goto(`${lan}/ladder/1/print`);
    await expect(phone.getByText(/^Printing rung \d of 8/)).toBeVisible();
    const line = phone.getByText(/^.*Line [\d,]+ of [\d,]+ is sure/);
    const before = await line.innerText();
    await expect(line).not.toHaveText(before);
    await phone.getByRole('button', { name: 'Stop and cool' }).tap();
    await expect(computer.getByRole('heading', { name: 'Stopped' })).toBeVisible();
    await expect(phone.getByRole('heading', { name: 'Stopped' })).toBeVisible();
    expect(await phone.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(
      390,
    );
    await phone.goto(`${lan}/bench/1/machine`);
    await expect(phone.getByText('Nozzle, off')).toBeVisible();
  },
);
