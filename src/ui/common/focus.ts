'use client';
/** Where the focus goes when what had it is gone. */

/** What somebody does next ends the watch: from then on the focus is theirs. */
const THEIRS = ['keydown', 'pointerdown'] as const;

let endLast: () => void = () => undefined;

/**
 * Remembers where an element stands. The function that comes back sees to it that the focus does not fall to the body
 * when an act has taken the element away, however late the page changes and however often: it goes to what stands in
 * its place, the next control after it, or the main part. The watch ends with whatever the user does next.
 */
export function keepFocus(id: string): () => void {
  const element = document.getElementById(id);
  if (!element || !element.contains(document.activeElement)) return () => undefined;
  const homes: HTMLElement[] = [];
  for (let one = element.parentElement; one && one !== document.body; one = one.parentElement)
    homes.push(one);
  return () => {
    endLast();
    let asked = 0;
    // In the frame after a change, when the browser has settled where the focus is.
    const look = () => {
      asked = 0;
      if (document.activeElement === null || document.activeElement === document.body) give(homes);
    };
    const ask = () => (asked ||= requestAnimationFrame(look));
    const watch = new MutationObserver(ask);
    const end = () => {
      watch.disconnect();
      cancelAnimationFrame(asked);
      for (const name of THEIRS) document.removeEventListener(name, end, true);
    };
    endLast = end;
    for (const name of THEIRS) document.addEventListener(name, end, true);
    watch.observe(document.body, { childList: true, attributes: true, subtree: true });
    ask();
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
