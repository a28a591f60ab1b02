'use client';
/** Where the focus goes when what had it is gone. */

/** How long the page is watched for its change after an act, ms. */
const WATCH_MS = 2500;

/**
 * Remembers where an element stands. The function that comes back sees to it that the focus does not fall to the body
 * when an act has taken the element away: it goes to what stands in its place, the next control after it, or the main part.
 */
export function keepFocus(id: string): () => void {
  const element = document.getElementById(id);
  if (!element || !element.contains(document.activeElement)) return () => undefined;
  const homes: HTMLElement[] = [];
  for (let one = element.parentElement; one && one !== document.body; one = one.parentElement)
    homes.push(one);
  return () => {
    const until = performance.now() + WATCH_MS;
    const look = () => {
      const lost = document.activeElement === null || document.activeElement === document.body;
      if (lost) return give(homes);
      if (performance.now() < until) requestAnimationFrame(look);
    };
    requestAnimationFrame(look);
  };
}

const CONTROLS =
  'a[href], button, input:not([type=hidden]), select, textarea, summary, [tabindex="0"]';

function give(homes: readonly HTMLElement[]): void {
  const home = homes.find((one) => one.isConnected) ?? document.querySelector<HTMLElement>('main');
  if (!home) return;
  const control = home.querySelector<HTMLElement>(CONTROLS);
  if (control) return control.focus({ preventScroll: true });
  home.tabIndex = -1;
  home.focus({ preventScroll: true });
}
