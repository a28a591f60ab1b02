// What was made with other data, what was refused, and what was pressed once: nothing lands where it does not belong.
import { expect, test } from './base';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { anotherGeneration } from '../../src/store/identity';
import { migrationsIn, openStore } from '../../src/store/open';
import { newBench, newLadder, printIt, progress } from './people';

/** As an import does: other data stands at the same address. */
function otherData(data: string): void {
  const path = join(data, 'ash.sqlite');
  const db = openStore(path, migrationsIn('src/store/migrations'));
  if (!db.ok) throw new Error('no store');
  anotherGeneration(db.value);
  db.value.close();
}

test(
  'taps made without a connection do not land in other data: they are kept aside, and can be saved',
  { tag: '@long' },
  async ({ page, own }) => {
    await newBench(page, 'Heron aside', 'Moss aside');
    await newLadder(page);
    await printIt(page);
    const kept = page.waitForResponse(
      (got) => /\/readings\/\d+$/.test(got.url()) && got.request().method() === 'POST',
    );
    await page.keyboard.press('0');
    await kept;
    await expect(progress(page)).toHaveText('1 / 42');
    await page.context().setOffline(true);
    await page.keyboard.press('1');
    await page.keyboard.press('2');
    await expect(page.getByText(/2 changes wait here/)).toBeVisible();
    otherData(own.data);
    await page.context().setOffline(false);
    await expect(
      page.getByText('2 changes made here with other data are kept aside', { exact: false }),
    ).toBeVisible();
    await expect(page.getByText('The program holds other data now than this page')).toBeVisible();
    await page.getByRole('button', { name: 'Load the page again' }).click();
    await expect(progress(page)).toHaveText('1 / 42');
    const down = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Save as a file' }).click();
    const saved = JSON.parse(readFileSync(await (await down).path(), 'utf8')) as {
      acts: unknown[];
    };
    expect(saved.acts).toHaveLength(2);
    await page.getByRole('button', { name: 'Throw away …' }).click();
    await page.getByRole('button', { name: 'Throw away for good' }).click();
    await expect(page.getByText(/kept aside/)).toBeHidden();
  },
);

test(
  'a press whose answer was lost is looked up, and not done twice',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Heron press', 'Moss press');
    await newLadder(page);
    await page.getByRole('button', { name: 'Generate file' }).click();
    await expect(page.getByRole('heading', { name: 'Ready to print' })).toBeVisible();
    const address = page.url();
    const printed = page.getByRole('button', { name: 'Printed: score it' });
    let lose: 'answer' | 'request' | 'no' = 'answer';
    await page.route(/\/ladder\/\d+\/print/, async (route) => {
      if (route.request().headers()['next-action'] === undefined || lose === 'no')
        return route.continue();
      if (lose === 'answer') await route.fetch();
      await route.abort();
    });
    lose = 'request';
    await printed.click();
    await expect(page.getByText(/did not reach it, so it was not done/)).toBeVisible();
    lose = 'answer';
    await printed.click();
    await expect(page.getByText(/only its answer did not come back/)).toBeVisible();
    lose = 'no';
    await page.goto(address.replace('/print', '/read'));
    await expect(page.getByText('print 1', { exact: false }).first()).toBeVisible();
    await expect(page.getByText('print 2', { exact: false })).toHaveCount(0);
  },
);

test('a press that was not waited for is done, and the page that comes after shows it', async ({
  page,
}) => {
  await newBench(page, 'Heron leave', 'Moss leave');
  await newLadder(page);
  await printIt(page);
  await page.getByText('more readings').click();
  // Pressed, and left as soon as it is on its way.
  const sent = page.waitForRequest((one) => one.headers()['next-action'] !== undefined);
  await page.getByRole('button', { name: 'Archive print 1', exact: true }).click();
  await sent;
  await page.evaluate(() => window.location.assign('/archive'));
  await expect(page.getByRole('button', { name: /^Bring back print/ }).first()).toBeVisible();
  await expect.poll(() => page.evaluate(() => sessionStorage.getItem('ash-presses'))).toBeNull();

  // One that was left before it was sent, and one that the program never got, are said not to be done.
  await page.evaluate(() => sessionStorage.setItem('ash-begun', '["left-at-once"]'));
  await page.reload();
  await expect(page.getByText('did not reach the program')).toBeVisible();
  await page.getByRole('button', { name: 'Seen' }).click();
  await page.evaluate(() => sessionStorage.setItem('ash-presses', '["never-sent"]'));
  await page.reload();
  const said = page.getByText('What you pressed last on the page before did not reach the program');
  await expect(said).toBeVisible();
  await page.getByRole('button', { name: 'Seen' }).click();
  await expect(said).toBeHidden();
});

test(
  'a picture that is refused is told of on every page, until it was seen',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Heron refuse', 'Moss refuse');
    await newLadder(page);
    await printIt(page);
    await page.getByLabel('Choose a picture').setInputFiles({
      name: 'no.jpg',
      mimeType: 'image/jpeg',
      buffer: Buffer.from('no picture at all'),
    });
    await expect(page.getByText('A picture was not taken', { exact: false })).toBeVisible();
    await page.goto('/');
    await expect(page.getByText('A picture was not taken', { exact: false })).toBeVisible();
    await page.getByRole('button', { name: 'Seen' }).click();
    await expect(page.getByText('A picture was not taken', { exact: false })).toBeHidden();
    await page.reload();
    await expect(page.getByRole('combobox', { name: 'Bench' })).toBeVisible();
    await expect(page.getByText('A picture was not taken', { exact: false })).toBeHidden();
  },
);
