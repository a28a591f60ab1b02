import { expect, test } from './base';
import { ownServer, type OwnServer } from './own-server';
import { newBench, newLadder, printIt } from './people';

test.describe('with an empty store', () => {
  let server: OwnServer;
  test.beforeAll(async () => {
    server = await ownServer('start', 4785);
  });
  test.afterAll(() => server.stop());

  test('somebody without a printer has a drawn ladder after one press, and a simulated print after two more', async ({
    page,
  }) => {
    await page.goto(server.address);
    await expect(page.getByRole('heading', { level: 1 })).toContainText('A handful of numbers');
    await expect(page.getByRole('link', { name: 'Set up a bench' })).toBeVisible();
    await page.getByRole('button', { name: 'Try it without a printer' }).click();
    await expect(
      page.getByRole('img', { name: 'The ladder from the front, to scale' }),
    ).toBeVisible();
    await page.getByRole('button', { name: 'Generate file' }).click();
    await page.getByRole('button', { name: 'Print on the understudy' }).click();
    await expect(page.getByText('no real machine printed this', { exact: false })).toBeVisible();
    await expect(page.getByRole('button', { name: 'Zoom in' })).toBeVisible();
    // It comes scored half, at the first rung that is not; its finding is there, and says what a few more scores do.
    await expect(page.getByText('Every second rung was scored for you')).toBeVisible();
    await expect(page.getByText('rung 2 of 8 from the bottom')).toBeVisible();
    await page.getByRole('link', { name: 'the finding', exact: true }).click();
    await expect(page.getByText(/^Proposed nozzle temperature$/)).toBeVisible();
    await page.getByRole('link', { name: 'score them' }).click();
    await expect(page.getByText('rung 2 of 8 from the bottom')).toBeVisible();
    for (let i = 0; i < 6; i++) await page.keyboard.press('3');
    // What was scored for them is passed over.
    await expect(page.getByText('rung 4 of 8 from the bottom')).toBeVisible();
    // The bench says where one is on the way to its first value, until that is put aside.
    await page.getByRole('link', { name: /Practice machine/ }).click();
    const way = page.getByRole('region', { name: 'The way to the first value' });
    await expect(way.locator('[aria-current=step]')).toContainText('3. Score');
    await way.getByRole('button', { name: 'Hide' }).click();
    await expect(way).toBeHidden();
    await page.reload();
    await expect(page.getByRole('link', { name: 'Continue scoring' }).first()).toBeVisible();
    await expect(way).toBeHidden();
  });
});

test(
  'what prints are for sets what counts, and the same ladder is set up for another bench in one press',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Heron goals', 'Quill goals');
    await newBench(page, 'Heron goals', 'Moss goals');
    await newLadder(page);
    await page.getByLabel('Step, °C').fill('10');
    await page.getByLabel('Step, °C').fill('5');
    await page.getByLabel('Rung height, mm').fill('9');
    await printIt(page);
    await page.keyboard.press('m');
    for (const score of '0134431') await page.keyboard.press(score);
    await page.getByRole('link', { name: 'Finding' }).first().click();
    const adhesion = page.getByRole('slider', { name: 'Weight of layer adhesion' });
    const gloss = page.getByRole('slider', { name: 'Weight of gloss' });
    await page.getByRole('button', { name: 'Strength' }).click();
    await expect(page.getByRole('button', { name: 'Strength' })).toHaveAttribute(
      'aria-pressed',
      'true',
    );
    expect(Number(await adhesion.inputValue())).toBeGreaterThan(Number(await gloss.inputValue()));
    await page.reload();
    await expect(page.getByRole('button', { name: 'Strength' })).toHaveAttribute(
      'aria-pressed',
      'true',
    );
    await page.getByRole('button', { name: /Quill goals/ }).click();
    // What was changed comes along; the rest is what the other bench has.
    await expect(page).toHaveURL(/\/ladder\/\d+\/design$/);
    await expect(page.getByText('Quill goals', { exact: false }).first()).toBeVisible();
    await expect(page.getByLabel('Rung height, mm')).toHaveValue('9');
  },
);
