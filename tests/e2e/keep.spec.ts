// What is on the page is what is kept: after going back and forth, in two tabs, and through a bad connection.
import { expect, test, type Page } from './base';
import { newBench, newLadder, openRung, printIt, progress, setUp } from './people';

/** Scores what follows with keys, one after the other. */
async function keys(page: Page, scores: string): Promise<void> {
  for (const score of scores) await page.keyboard.press(score);
}

async function readingOf(page: Page): Promise<{ acts: { rung: number; score: number | null }[] }> {
  // A page that was just loaded may not have asked for it yet.
  const asked = await page.waitForFunction(() => {
    const seen = performance.getEntriesByType('resource').map(({ name }) => name);
    return /\/readings\/(\d+)/.exec(
      seen.findLast((name) => name.includes('/readings/')) ?? '',
    )?.[1];
  });
  const id = await asked.jsonValue();
  return (await (await page.request.get(`/readings/${id}`)).json()) as never;
}

test('after back, forward and reload the taps are there, and undo takes back the last', async ({
  page,
}) => {
  await newBench(page, 'Heron back', 'Moss back');
  await newLadder(page);
  await printIt(page);
  await keys(page, '01234');
  await expect(progress(page)).toHaveText('5 / 42');
  await page.getByRole('link', { name: 'Finding' }).first().click();
  await expect(page).toHaveURL(/finding/);
  await page.goBack();
  await expect(progress(page)).toHaveText('5 / 42');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(progress(page)).toHaveText('4 / 42');
  await page.goForward();
  await page.goBack();
  await expect(progress(page)).toHaveText('4 / 42');
  await page.reload();
  await expect(progress(page)).toHaveText('4 / 42');
});

test(
  'a design that was changed is the same after back, and a change elsewhere stays',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Heron design back', 'Moss design back');
    await newLadder(page);
    await page.getByLabel('Step, °C').fill('10');
    await expect(page.getByRole('button', { name: /^200 °C/ })).toBeVisible();
    await page.getByRole('link', { name: /Heron design back/ }).click();
    await expect(page.getByLabel('Route, last first')).toBeVisible();
    await page.goBack();
    await expect(page.getByLabel('Step, °C')).toHaveValue('10');
    // Another tab changes another input; neither change undoes the other.
    const other = await page.context().newPage();
    await other.goto(page.url());
    await other.getByLabel('Top, °C').fill('200');
    await expect.poll(async () => (await spec(page)).to).toBe(200);
    await page.bringToFront();
    await page.getByLabel('Bottom, °C').fill('210');
    await expect.poll(() => spec(page)).toMatchObject({ from: 210, to: 200, step: 10 });
    await page.reload();
    await expect(page.getByLabel('Top, °C')).toHaveValue('200');
  },
);

const spec = async (page: Page): Promise<Record<string, number>> => {
  const id = /ladder\/(\d+)/.exec(page.url())![1];
  const got = await page.request.get(`/ladders/${id}/spec`);
  return ((await got.json()) as { spec: Record<string, number> }).spec;
};

test('taps made without a connection are kept, said to wait, and sent in order when it is back', async ({
  page,
}) => {
  await newBench(page, 'Heron offline', 'Moss offline');
  await newLadder(page);
  await printIt(page);
  await keys(page, '0');
  await expect(progress(page)).toHaveText('1 / 42');
  await page.context().setOffline(true);
  await keys(page, '1234');
  await page.keyboard.press('u');
  await expect(page.getByText(/changes wait here/)).toBeVisible();
  await expect(progress(page)).toHaveText('4 / 42');
  // Leaving and coming back loses nothing.
  await page.context().setOffline(false);
  await page.reload();
  await expect(progress(page)).toHaveText('4 / 42');
  await expect(page.getByText(/changes wait here/)).toBeHidden();
  await expect
    .poll(async () => (await readingOf(page)).acts.map(({ score }) => score))
    .toEqual([0, 1, 2, 3]);
});

test(
  'an act whose answer was lost is done once, and so is its undo',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Heron lost', 'Moss lost');
    await newLadder(page);
    await printIt(page);
    // The program hears the act; its answer never arrives.
    let lose = true;
    await page.route(/\/readings\/\d+$/, async (route) => {
      if (route.request().method() !== 'POST' || !lose) return route.continue();
      await route.fetch();
      await route.abort();
    });
    await keys(page, '34');
    await page.keyboard.press('u');
    await expect(page.getByText(/wait/).first()).toBeVisible();
    lose = false;
    await expect
      .poll(async () => (await readingOf(page)).acts.map(({ score }) => score))
      .toEqual([3]);
    await expect(progress(page)).toHaveText('1 / 42');
  },
);

test('two tabs on one reading: undo in one takes back its own tap', async ({ page }) => {
  await newBench(page, 'Heron tabs', 'Moss tabs');
  await newLadder(page);
  await printIt(page);
  await keys(page, '1');
  // A page that is opened before the act is kept stands on the first cell still.
  await expect.poll(async () => (await readingOf(page)).acts.length).toBe(1);
  const other = await page.context().newPage();
  await other.goto(page.url());
  await expect(progress(other)).toHaveText('1 / 42');
  // The page listens once it has asked for what is kept.
  await other.waitForFunction(() =>
    performance.getEntriesByType('resource').some(({ name }) => /readings\/\d+(\?|$)/.test(name)),
  );
  await keys(other, '4');
  await expect(progress(other)).toHaveText('2 / 42');
  await page.bringToFront();
  await expect(progress(page)).toHaveText('2 / 42');
  await page.keyboard.press('u');
  await expect
    .poll(async () => (await readingOf(page)).acts.map(({ score }) => score))
    .toEqual([4]);
});

test(
  'one cell is current for mouse, keys and focus, and after the last nothing is overwritten',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Heron cell', 'Moss cell');
    await newLadder(page);
    await printIt(page);
    const row = (name: string, value: number) =>
      page.getByRole('group', { name: `${name} at ${value} °C` });
    // A tap scores its cell; the next key scores the one that is marked then.
    await row('stringing', 220).getByText('2', { exact: true }).click();
    await expect(row('overhang', 220)).toHaveAttribute('aria-current', 'true');
    await page.keyboard.press('3');
    await expect(row('overhang', 220).getByRole('radio', { name: '3 good' })).toBeChecked();
    await expect(row('bridging', 220).getByRole('radio', { name: '0 fails' })).toBeFocused();
    // Focus that is moved by Tab is where the next key goes.
    await page.keyboard.press('Tab');
    await expect(row('surface', 220)).toHaveAttribute('aria-current', 'true');
    await page.keyboard.press('4');
    await expect(row('surface', 220).getByRole('radio', { name: '4 clean' })).toBeChecked();
    // To the very last cell, and beyond it.
    await page.keyboard.press('m');
    for (let i = 0; i < 8; i++) await page.keyboard.press('ArrowUp');
    for (let i = 0; i < 8; i++) await page.keyboard.press('ArrowRight');
    await page.keyboard.press('1');
    await expect(page.getByText('That was the last one.', { exact: false })).toBeVisible();
    await page.keyboard.press('0');
    await page.keyboard.press('0');
    await expect(progress(page)).toHaveText('4 / 42');
    await expect(row('layer adhesion', 190).getByRole('radio', { name: '1 poor' })).toBeChecked();
  },
);

test(
  'with the program gone, everything that is done says so and is still there',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Heron gone', 'Moss gone');
    await page.goto('/things');
    await page
      .getByRole('link', { name: 'Heron gone', exact: true })
      .or(page.getByRole('link', { name: /^Heron gone/ }))
      .first()
      .click();
    await page.getByLabel('Print height, mm').fill('199');
    await page.context().setOffline(true);
    await page.getByRole('button', { name: 'Save' }).click();
    await expect(page.getByText('The program did not answer', { exact: false })).toBeVisible();
    await expect(page.getByLabel('Print height, mm')).toHaveValue('199');
    await page.context().setOffline(false);
    await page.getByRole('button', { name: 'Save' }).click();
    await expect(page.getByRole('heading', { name: 'Machines', exact: true })).toBeVisible();

    await page.goto('/');
    await setUp(page, 'temperature');
    await page.context().setOffline(true);
    await page.getByRole('button', { name: 'Generate file' }).click();
    await expect(page.getByText('The program did not answer', { exact: false })).toBeVisible();
    await expect(page.getByLabel('Step, °C')).toBeVisible();
    await page.context().setOffline(false);
    await page.getByRole('button', { name: 'Generate file' }).click();
    await expect(page.getByRole('heading', { name: 'Ready to print' })).toBeVisible();
  },
);

test(
  'a worker that cannot be loaded is told of, and the next wish gets a new one',
  { tag: '@long' },
  async ({ page }) => {
    await page.addInitScript(() => {
      const Real = window.Worker;
      window.Worker = class extends Real {
        constructor(from: string | URL, how?: WorkerOptions) {
          super(sessionStorage.getItem('broken') ? '/no-such-worker.js' : from, how);
          // One that is asked and hears nothing.
          if (sessionStorage.getItem('mute')) this.postMessage = () => undefined;
          sessionStorage.removeItem('mute');
        }
      };
    });
    const broken = (yes: boolean) =>
      page.evaluate((is) => sessionStorage.setItem('broken', is ? 'yes' : ''), yes);
    const told = page.getByText('could not be loaded, or stopped', { exact: false });

    // The designer.
    await newBench(page, 'Heron broken', 'Moss broken');
    await newLadder(page);
    await broken(true);
    await page.reload();
    await expect(told).toBeVisible();
    await broken(false);
    await page.getByLabel('Step, °C').fill('10');
    await expect(page.getByRole('button', { name: /^200 °C/ })).toBeVisible();
    await expect(told).toBeHidden();

    // The understudy.
    await page.getByRole('button', { name: 'Generate file' }).click();
    await expect(page.getByRole('heading', { name: 'Ready to print' })).toBeVisible();
    await broken(true);
    await page.getByRole('button', { name: 'Print on the understudy' }).click();
    await expect(told).toBeVisible();
    await broken(false);
    await page.getByRole('button', { name: 'Print on the understudy' }).click();
    await expect(page).toHaveURL(/read/);

    // A file from elsewhere.
    await page.goto('/inspect');
    const open = () =>
      page
        .locator('input[type=file]')
        .first()
        .setInputFiles({
          name: 'one.gcode',
          mimeType: 'text/plain',
          buffer: Buffer.from('G28\nG1 X50 Y50 Z0.3 F3000\nG1 X90 E2 F1200\n'),
        });
    await broken(true);
    await open();
    await expect(told).toBeVisible();
    await broken(false);
    await open();
    await expect(page.getByRole('heading', { name: 'one.gcode' })).toBeVisible();
    await expect(told).toBeHidden();
    // One that begins and then says nothing is given up for another.
    await page.goto('/inspect');
    await page.evaluate(() => sessionStorage.setItem('mute', 'yes'));
    await open();
    await expect(page.getByLabel('Reading progress')).toBeVisible();
    await expect(page.getByRole('heading', { name: 'one.gcode' })).toBeVisible();
  },
);

test(
  'numbers are read as people type them, and nothing is made while one is wrong',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Heron typed', 'Moss typed');
    await newLadder(page);
    const step = page.getByLabel('Step, °C');
    await step.fill('abc');
    await expect(page.getByText('“abc” is not a number.')).toBeVisible();
    await page.getByRole('button', { name: 'Generate file' }).click();
    await expect(step).toBeFocused();
    await expect(page.getByRole('heading', { name: 'Ready to print' })).toBeHidden();
    await step.fill('10');
    await expect(page.getByText('“abc” is not a number.')).toBeHidden();
    await page.getByLabel('Rung height, mm').fill('8,5');
    await expect.poll(() => spec(page)).toMatchObject({ step: 10, rungHeight: 8.5 });

    await page.goto('/bench/new');
    await page.getByLabel('Machine', { exact: true }).selectOption('new');
    await page.getByLabel('Filament', { exact: true }).selectOption('new');
    await page.getByLabel('Machine’s name').fill('Typed');
    await page.getByLabel('Filament’s name').fill('Typed');
    const width = page.getByLabel('Bed width, mm');
    await width.fill('1,500');
    await page.getByRole('button', { name: 'Make this bench' }).click();
    await expect(
      page.getByText('1,500 could be 1.500 or 1500', { exact: false }).first(),
    ).toBeVisible();
    await expect(width).toBeFocused();
    await width.fill('1');
    await page.getByRole('button', { name: 'Make this bench' }).click();
    await expect(page.getByText('no ladder fits a bed under', { exact: false })).toBeVisible();
    await width.fill('50');
    await expect(page.getByText('no ladder fits a bed under', { exact: false })).toBeHidden();
    await page.getByLabel('Bed depth, mm').fill('50');
    await page.getByRole('button', { name: 'Make this bench' }).click();
    // On a bed that small a ladder fits, or it is said plainly that it does not.
    await openRung(page, 'temperature');
    await page.getByRole('button', { name: 'New temperature ladder' }).click();
    await expect(
      page
        .locator('canvas')
        .or(page.getByText('does not fit', { exact: false }))
        .first(),
    ).toBeVisible();
  },
);

test(
  'two windows on one machine: the second to save is told, and may choose',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Heron shared', 'Moss shared');
    await page.goto('/things');
    await page
      .getByRole('link', { name: /^Heron shared/ })
      .first()
      .click();
    const other = await page.context().newPage();
    await page.getByLabel('Print height, mm').waitFor();
    await other.goto(page.url());
    await other.getByLabel('Print height, mm').fill('111');
    await other.getByRole('button', { name: 'Save' }).click();
    await expect(other.getByRole('heading', { name: 'Machines', exact: true })).toBeVisible();
    await page.bringToFront();
    await page.getByLabel('Print height, mm').fill('222');
    await page.getByRole('button', { name: 'Save' }).click();
    await expect(page.getByText('was changed in another window', { exact: false })).toBeVisible();
    await page.getByRole('button', { name: 'Load the other version' }).click();
    await expect(page.getByLabel('Print height, mm')).toHaveValue('111');
    await page.getByLabel('Print height, mm').fill('222');
    await page.getByRole('button', { name: 'Save' }).click();
    await expect(page.getByRole('heading', { name: 'Machines', exact: true })).toBeVisible();
  },
);

test(
  'an unscored or simulated copy hides no finding, and a print comes back from the archive',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Heron copies', 'Moss copies');
    await newLadder(page);
    await printIt(page);
    await page.keyboard.press('m');
    await keys(page, '0134431');
    await expect(progress(page)).toHaveText('7 / 42');
    await page.getByRole('link', { name: 'Finding' }).first().click();
    const large = page.locator('p.text-7xl');
    await expect(large).toBeVisible();
    const proposed = await large.innerText();
    // Printed again and not looked at: the finding stays.
    await page.getByRole('link', { name: 'Score', exact: true }).click();
    await page.getByText('more readings').click();
    await page.getByRole('button', { name: 'Printed again' }).click();
    await expect(page.getByText('print 2, reading 1', { exact: false }).first()).toBeVisible();
    await page.getByRole('link', { name: 'Finding' }).first().click();
    await expect(large).toHaveText(proposed);
    // The scored print is archived: nothing is left; brought back, all is.
    await page.getByRole('link', { name: 'Score', exact: true }).click();
    await page.getByText('more readings').click();
    await page.getByRole('link', { name: 'print 1, reading 1' }).click();
    await page.getByRole('button', { name: 'Archive print 1', exact: true }).click();
    await expect(page.getByText('print 1 is in the archive.')).toBeVisible();
    await page.getByRole('link', { name: 'Finding' }).first().click();
    await expect(page.getByRole('heading', { name: 'No finding yet' })).toBeVisible();
    await page.goto('/archive');
    await page
      .getByRole('button', { name: /Bring back print/ })
      .first()
      .click();
    await page.goBack();
    await expect(large).toHaveText(proposed);
    // All weights at 0: said so, and the sliders stay.
    for (const slider of await page.getByRole('slider').all()) await slider.fill('0');
    await page.getByRole('slider').last().press('Home');
    await expect(page.getByText('has a weight of 0', { exact: false })).toBeVisible();
    await page.getByRole('slider', { name: 'Weight of stringing' }).press('End');
    await expect(large).toBeVisible();
    // A value of one's own is held against what was printed.
    await page.getByText('Save a value of your own').click();
    await page.getByLabel('Your nozzle temperature, °C').fill('20.5');
    await page.getByRole('button', { name: 'Save it' }).click();
    await expect(page.getByText('this ladder printed 190 to 220', { exact: false })).toBeVisible();
    await page.getByLabel('Your nozzle temperature, °C').fill('205');
    await page.getByRole('button', { name: 'Save it' }).click();
    await expect(
      page.getByText(/The ledger has 205 °C now|(Saved to|is in) the ledger/),
    ).toBeVisible();
  },
);

test(
  'the focus never falls to nowhere: after archiving, undoing, saving and closing',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Heron focus', 'Moss focus');
    const lost = () =>
      page.evaluate(
        () => document.activeElement === null || document.activeElement === document.body,
      );
    await page.goto('/things');
    await page.getByRole('button', { name: 'Archive Moss focus', exact: true }).focus();
    await page.keyboard.press('Enter');
    await expect(page.getByText('Moss focus is in the archive.')).toBeVisible();
    await expect.poll(lost).toBe(false);
    await page.getByRole('button', { name: 'Undo' }).focus();
    await page.keyboard.press('Enter');
    await expect(page.getByText('Moss focus is in the archive.')).toBeHidden();
    await expect.poll(lost).toBe(false);
    await page
      .getByRole('link', { name: /^Moss focus/ })
      .first()
      .click();
    await page.getByRole('button', { name: 'Save' }).focus();
    await page.keyboard.press('Enter');
    await expect(page.getByRole('heading', { name: 'Filaments' })).toBeVisible();
    await expect.poll(lost).toBe(false);
  },
);

test(
  'the focus is kept when the page changes long after the answer has come',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Heron late', 'Moss late');
    // An answer is a stream: what became of the act comes first, the changed page behind it, here 4 s behind it.
    await page.addInitScript(() => {
      const quick = window.fetch;
      window.fetch = async (input, init) => {
        const answer = await quick(input, init);
        if (!new Headers(init?.headers).has('next-action')) return answer;
        const text = await answer.text();
        const result = /^1:.*\n/m.exec(text)!;
        const after = result.index + result[0].length;
        const body = new ReadableStream<Uint8Array>({
          async start(controller) {
            controller.enqueue(new TextEncoder().encode(text.slice(0, after)));
            await new Promise((done) => setTimeout(done, 4000));
            controller.enqueue(new TextEncoder().encode(text.slice(after)));
            controller.close();
          },
        });
        return new Response(body, { status: answer.status, headers: answer.headers });
      };
    });
    await page.goto('/things');
    const button = page.getByRole('button', { name: 'Archive Moss late', exact: true });
    await button.focus();
    await page.keyboard.press('Enter');
    await expect(page.getByText('Moss late is in the archive.')).toBeVisible();
    await expect(button).toBeHidden();
    await expect
      .poll(() => page.evaluate(() => document.activeElement?.closest('main') !== null))
      .toBe(true);
  },
);
