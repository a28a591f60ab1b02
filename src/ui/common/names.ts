'use client';
/** Names that are given where something is done, so that it is the same however often it is sent. */

const TAB = 'ash-tab';
let counter = 0;

/** Name of this tab; it stays through reloads, and undo prefers what was done here. */
export function tabName(): string {
  try {
    const known = sessionStorage.getItem(TAB);
    if (known) return known;
    const name = random();
    sessionStorage.setItem(TAB, name);
    return name;
  } catch {
    return 'tab';
  }
}

const random = (): string =>
  Array.from(crypto.getRandomValues(new Uint8Array(8)), (byte) =>
    byte.toString(16).padStart(2, '0'),
  ).join('');

/** A name for an act, like no other. */
export const actName = (): string =>
  `${tabName()}.${Date.now().toString(36)}.${counter++}.${random().slice(0, 6)}`;
