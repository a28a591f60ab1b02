// Every screen, each rule of scoring and finding once: nothing too small, nothing over another, nothing out of the window; and no
// serious finding of an accessibility check, wide and on a phone, in both themes.
import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { ownServer, type OwnServer } from './own-server';

const PAGES = [
  '/bench/1',
  '/bench/2#retraction',
  '/bench/1/machine',
  '/bench/1/shake',
  '/bench/1/machine?linked',
  '/bench/new',
  '/things',
  '/things/machine/1',
  '/things/filament/1',
  '/archive',
  '/things/room',
  '/phones',
  '/inspect',
  '/inspect?file=1',
  '/ladder/1/design',
  '/ladder/1/print',
  '/ladder/1/read',
  '/ladder/1/finding',
  '/ladder/1/sheet',
  '/ladder/2/read',
  '/ladder/2/loupe',
  '/ladder/4/design',
  '/ladder/4/read',
  '/ladder/4/loupe',
  '/ladder/4/finding',
  '/ladder/5/read',
  '/ladder/5/sheet',
  '/ladder/6/read',
  '/ladder/6/finding',
  '/ladder/7/read',
  '/ladder/7/finding',
  '/nowhere',
];
/** Every width and both themes, or the two ends of the widths and the themes page by page in turn. */
const WHOLE = process.env.ASH_LONG !== undefined;
const WIDTHS = WHOLE ? [1440, 1280, 1180, 1024, 768, 390] : [1280, 390];
/** Smallest side of what is pressed, px. */
const LEAST = 24;

let server: OwnServer;
// One page for all: nothing is changed on it, and what it has compiled serves the next address too.
let page: Page;
test.beforeAll(async ({ browser }) => {
  server = await ownServer('demo', 4786, { args: ['--lan', '127.0.0.4'] });
  page = await (await browser.newContext()).newPage();
});
test.afterAll(async () => {
  await page.context().close();
  await server.stop();
});

async function open(page: Page, path: string): Promise<void> {
  await page.goto(server.address + path);
  if (path.includes('linked')) {
    await page.getByRole('button', { name: 'Simulated: Calm day' }).click();
    await page.getByRole('table').waitFor();
  }
  if (path.includes('design')) await page.locator('canvas').first().waitFor();
}

/** What is wrong with the controls of a page, in words; runs in the page. */
const misplaced = (least: number): string[] => {
  const controls = [
    ...document.querySelectorAll<HTMLElement>(
      'a[href], button, select, textarea, summary, input:not([type=hidden]):not([type=radio])',
    ),
    // Radios are as large as the label that is pressed.
    ...document.querySelectorAll<HTMLElement>('label:has(input[type=radio])'),
  ];
  const faults: string[] = [];
  const nameOf = (one: HTMLElement) =>
    `${one.tagName.toLowerCase()} “${(one.getAttribute('aria-label') ?? one.textContent ?? '').trim().slice(0, 40)}”`;
  const shown: { one: HTMLElement; box: DOMRect }[] = [];
  for (const one of controls) {
    const box = one.getBoundingClientRect();
    const style = getComputedStyle(one);
    if (
      one.classList.contains('sr-only') ||
      !one.checkVisibility() ||
      style.visibility === 'hidden'
    )
      continue;
    if (box.width === 0 || box.height === 0) continue;
    // A link within a sentence is as tall as its line.
    const inline = one.tagName === 'A' && style.display === 'inline';
    const slider = one instanceof HTMLInputElement && one.type === 'range';
    const box2 =
      slider || one instanceof HTMLInputElement ? (one.closest('label, .input') ?? one) : one;
    const press = box2.getBoundingClientRect();
    if (!inline && (press.width < least - 0.5 || press.height < least - 0.5))
      faults.push(`${nameOf(one)} is ${Math.round(press.width)} × ${Math.round(press.height)}`);
    // What scrolls sideways in its own box may reach further.
    let scrolls = false;
    for (let up = one.parentElement; up && up !== document.body; up = up.parentElement)
      if (/auto|scroll|hidden/.test(getComputedStyle(up).overflowX)) scrolls = true;
    if (!scrolls && (box.left < -1 || box.right > window.innerWidth + 1))
      faults.push(
        `${nameOf(one)} leaves the window: ${Math.round(box.left)} to ${Math.round(box.right)}`,
      );
    let fixed = false;
    for (let up: HTMLElement | null = one; up; up = up.parentElement)
      if (/fixed|sticky/.test(getComputedStyle(up).position)) fixed = true;
    if (!fixed && !scrolls) shown.push({ one, box });
  }
  for (let i = 0; i < shown.length; i++)
    for (let k = i + 1; k < shown.length; k++) {
      const [a, b] = [shown[i]!, shown[k]!];
      if (a.one.contains(b.one) || b.one.contains(a.one)) continue;
      const wide = Math.min(a.box.right, b.box.right) - Math.max(a.box.left, b.box.left);
      const tall = Math.min(a.box.bottom, b.box.bottom) - Math.max(a.box.top, b.box.top);
      if (wide > 2 && tall > 2)
        faults.push(`${nameOf(a.one)} and ${nameOf(b.one)} lie over each other`);
    }
  if (document.documentElement.scrollWidth > window.innerWidth + 1)
    faults.push(`the page is ${document.documentElement.scrollWidth} wide`);
  return faults;
};

/** Numbers that are cut off, which read as other numbers; runs in the page. */
const cutNumbers = (): string[] => {
  const faults: string[] = [];
  const texts = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  for (let node = texts.nextNode(); node; node = texts.nextNode()) {
    const own = node.parentElement!;
    if (!/\d/.test(node.textContent ?? '') || !own.checkVisibility()) continue;
    if (own.closest('.sr-only, option, script, style, svg')) continue;
    const range = document.createRange();
    range.selectNodeContents(node);
    for (let up: HTMLElement | null = own; up && up !== document.body; up = up.parentElement) {
      const { overflowX } = getComputedStyle(up);
      // What can be moved into sight is not cut.
      if (/auto|scroll/.test(overflowX)) break;
      if (!/hidden|clip/.test(overflowX)) continue;
      const box = up.getBoundingClientRect();
      for (const one of range.getClientRects()) {
        // Wholly out of sight it is left out, not cut.
        const seen =
          one.top < box.bottom - 1 && one.bottom > box.top + 1 && one.left < box.right - 1;
        if (seen && (one.right > box.right + 1.5 || one.left < box.left - 1.5))
          faults.push(`“${node.textContent!.trim().slice(0, 40)}” is cut`);
      }
      break;
    }
  }
  for (const one of document.querySelectorAll<HTMLInputElement>(
    'input[type=text], input:not([type])',
  ))
    if (one.checkVisibility() && /\d/.test(one.value) && one.scrollWidth > one.clientWidth + 1)
      faults.push(`${one.getAttribute('aria-label')}: ${one.value} is cut`);
  return [...new Set(faults)];
};

const SIZES = WIDTHS.map((width) => ({ width, height: width < 500 ? 844 : 800 }));
const [WIDE, PHONE] = [SIZES.at(WHOLE ? 1 : 0)!, SIZES.at(-1)!];

/** Serious findings of the accessibility check on the page as it stands, in words. */
async function seriousOn(page: Page): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page })
    .options({ resultTypes: ['violations'], iframes: false })
    .analyze();
  return violations
    .filter(({ impact }) => impact === 'serious' || impact === 'critical')
    .map(({ id, nodes }) => {
      const shown = nodes
        .slice(0, 3)
        .map(
          ({ html, failureSummary = '' }) => `${html.slice(0, 140)} ${failureSummary.slice(-130)}`,
        );
      return `${id}: ${shown.join(' | ')}`;
    });
}

for (const [nth, path] of PAGES.entries())
  test(`${path} can be pressed at every width and read`, async () => {
    await page.setViewportSize(WIDE);
    await open(page, path);
    const faults: Record<string, string[]> = {};
    const note = (name: string, found: string[]) => {
      if (found.length > 0) faults[name] = found.slice(0, 12);
    };
    for (const size of SIZES) {
      await page.setViewportSize(size);
      note(`${size.width}`, await page.evaluate(misplaced, LEAST));
      note(`${size.width} numbers`, await page.evaluate(cutNumbers));
      if (path.endsWith('/read') && !path.includes('/4/')) {
        await page.keyboard.press('m');
        note(`${size.width} by criterion`, await page.evaluate(misplaced, LEAST));
        await page.keyboard.press('m');
      }
    }
    // Each theme and each end of the widths once: tones depend on the one, what scrolls on the other.
    const looks = [
      [WIDE, 'workshop'],
      [PHONE, 'ash'],
    ] as const;
    for (const [size, theme] of WHOLE ? looks : [looks[nth % looks.length]!]) {
      await page.setViewportSize(size);
      await page.evaluate(async (name) => {
        document.documentElement.dataset.theme = name;
        // Colours fade from one theme to the next: what is read in between is neither.
        const fades = document.getAnimations().filter((one) => one instanceof CSSTransition);
        await Promise.allSettled(fades.map(({ finished }) => finished));
      }, theme);
      note(`${size.width} ${theme}`, await seriousOn(page));
    }
    expect.soft(faults).toEqual({});
  });
