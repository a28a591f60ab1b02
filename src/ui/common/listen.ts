/** Listening to what happens to the window, in effects. */

/** What comes by, by its name; a change of visibility bubbles up from the document. */
type Heard = WindowEventMap & { visibilitychange: Event };

/** Hears these until what is returned is called. */
export function listen(heard: { [K in keyof Heard]?: (event: Heard[K]) => void }): () => void {
  const all = Object.entries(heard) as [string, EventListener][];
  for (const [name, hear] of all) window.addEventListener(name, hear);
  return () => {
    for (const [name, hear] of all) window.removeEventListener(name, hear);
  };
}
