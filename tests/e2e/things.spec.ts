import { expect, test } from './base';
import { newBench, newLadder } from './people';

test('a machine takes commands of the user’s own, and a wrong one is refused with words', async ({
  page,
}) => {
  await page.goto('/things/machine/new?from=heron');
  await page.getByLabel('Name', { exact: true }).fill('Bittern');
  await page.getByLabel('To set acceleration').fill('ACCEL P={print} T={nonsense}');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.locator('main').getByRole('alert')).toContainText(
    '{nonsense} is not known here',
  );
  await page.getByLabel('To set acceleration').fill('ACCEL P={print} T={travel}');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('link', { name: /Bittern/ }).first()).toBeVisible();
});

test('what is put away comes back with undo', async ({ page }) => {
  await newBench(page, 'Plover', 'Eel');
  await page.goto('/things');
  await page.getByRole('button', { name: 'Archive Plover', exact: true }).click();
  await expect(page.getByText('Plover is in the archive.')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('button', { name: 'Archive Plover', exact: true })).toBeVisible();
});

test('the dim theme is kept from page to page', async ({ page }) => {
  await page.goto('/things');
  await page.getByRole('button', { name: 'Light or dim' }).click();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'workshop');
  await page.goto('/bench/new');
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'workshop');
});

test('a reading sheet maps every place to its value', { tag: '@long' }, async ({ page }) => {
  await newBench(page, 'Dunlin', 'Moss sheet');
  await newLadder(page);
  await page.getByRole('button', { name: 'Generate file' }).click();
  await page.getByRole('link', { name: 'Score sheet' }).click();
  await expect(
    page.getByRole('list', { name: 'Rungs, lowest first' }).getByRole('listitem'),
  ).toHaveCount(7);
  await expect(
    page.getByRole('list', { name: 'Rungs, lowest first' }).getByRole('listitem').first(),
  ).toContainText('220 °C');
});

test('an unknown page, ladder or file says so', async ({ page, request }) => {
  for (const path of ['/ladder/99999/design', '/ladder/x/read', '/bench/99999', '/files/99999']) {
    const response = await request.get(path);
    expect(response.status(), path).toBe(404);
  }
  await page.goto('/bench/99999');
  await expect(page.getByText('Page not found')).toBeVisible();
});
