import { expect, test } from './base';
import { newBench, newLadder, printIt, progress } from './people';

test('the whole loop without a printer: print on the understudy, read, find, reveal', async ({
  page,
}) => {
  await newBench(page, 'Heron trial', 'Moss trial');
  await newLadder(page);
  await page.getByRole('button', { name: 'Generate file' }).click();
  await page.getByLabel('A simulated machine of this kind').selectOption('Damp cellar');
  await page.getByRole('button', { name: 'Print on the understudy' }).click();

  // Its picture stands where the drawing stood, and everything says that it is simulated.
  await expect(page.getByText('Simulated on “Damp cellar”', { exact: false })).toBeVisible();
  const picture = page.getByRole('img', { name: 'The ladder from the front, to scale' });
  await expect(picture).toHaveAttribute('src', /\/prints\/\d+\/picture/);
  expect(await picture.evaluate((img: HTMLImageElement) => img.naturalWidth)).toBeGreaterThan(900);
  await page.getByRole('button', { name: 'Zoom in' }).click();
  await expect(page.getByRole('dialog')).toBeVisible();
  await page.getByRole('button', { name: 'Close', exact: true }).click();

  await page.getByRole('button', { name: 'by criterion' }).click();
  await expect(page.getByText('1 of 6')).toBeVisible();
  for (const score of '0123432') await page.keyboard.press(score);
  await expect(progress(page)).toHaveText('7 / 42');
  await page.getByRole('link', { name: 'Finding' }).first().click();
  await expect(page.getByText('Simulated on “Damp cellar”', { exact: false })).toBeVisible();
  await page.getByRole('button', { name: 'Reveal it' }).click();
  await expect(page.getByText('Best nozzle temperature', { exact: false })).toBeVisible();
  await page.getByRole('button', { name: 'Save to ledger, as simulated' }).click();
  await expect(page.getByText('Saved to the ledger, as simulated.')).toBeVisible();
  await page.getByRole('link', { name: /Heron trial · 0.4 mm/ }).click();
  await expect(page.getByText('nozzle temperature (simulated)')).toBeVisible();
});

test(
  'a real print and a simulated one of the same ladder are never pooled',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Newt trial', 'Quill trial');
    await newLadder(page);
    await printIt(page);
    await page.getByRole('button', { name: 'by criterion' }).click();
    await expect(page.getByText('1 of 6')).toBeVisible();
    for (const score of '0234320') await page.keyboard.press(score);
    await page.getByRole('link', { name: 'Print', exact: true }).click();
    await page
      .getByLabel('A simulated machine of this kind')
      .selectOption('Mystery machine: a new one each time');
    await page.getByRole('button', { name: 'Print on the understudy' }).click();
    await expect(page.getByText('no real machine printed this', { exact: false })).toBeVisible();
    await page.getByRole('button', { name: 'by criterion' }).click();
    for (const score of '4443210') await page.keyboard.press(score);
    await page.getByRole('link', { name: 'Finding' }).first().click();
    await expect(page.getByText('From 1 print, 1 reading.', { exact: false })).toBeVisible();
  },
);

test(
  'printing on the understudy can be stopped, and nothing is kept of it',
  { tag: '@long' },
  async ({ page }) => {
    await newBench(page, 'Otter trial', 'Lantern trial');
    await newLadder(page);
    await page.getByRole('button', { name: 'Generate file' }).click();
    await expect(page.getByRole('heading', { name: 'Ready to print' })).toBeVisible();
    // The file comes late, so that the stop is sure to come before the end.
    let stopped = () => {};
    const stop = new Promise<void>((resolve) => (stopped = resolve));
    await page.route('**/files/*', async (route) => {
      await stop;
      await route.continue().catch(() => {});
    });
    await page.getByRole('button', { name: 'Print on the understudy' }).click();
    await page.getByRole('button', { name: 'Stop' }).click();
    stopped();
    await expect(page.getByRole('button', { name: 'Print on the understudy' })).toBeVisible();
    await expect(page.getByRole('heading', { name: 'Ready to print' })).toBeVisible();
    // Whoever prints it has ended: nothing can come of it later.
    await expect.poll(() => page.workers().length).toBe(0);
    await page.reload();
    await expect(page.getByRole('button', { name: 'Printed: score it' })).toBeVisible();
  },
);

test('a picture that is none is refused', async ({ request }) => {
  const answer = await request.post('/understudy?file=1', {
    multipart: {
      simulated: '{"name":"x","seed":1}',
      picture: { name: 'p.png', mimeType: 'image/png', buffer: Buffer.from('no picture') },
    },
  });
  expect(answer.status()).toBeGreaterThanOrEqual(400);
  expect((await request.get('/prints/99999/picture')).status()).toBe(404);
});
