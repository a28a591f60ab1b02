/** How many changes and pictures there are, in words. */

/** As the beginning of a sentence, "… waits". @param all changes and pictures together */
export const waitingWords = (all: number, pictures: number): string =>
  `${howMany(all, pictures)} ${all === 1 ? 'waits' : 'wait'}`;

/** "Two changes and one picture". */
export function howMany(all: number, pictures: number): string {
  const changes = all - pictures;
  const words = [
    changes > 0 && (changes === 1 ? 'one change' : `${changes} changes`),
    pictures > 0 && (pictures === 1 ? 'one picture' : `${pictures} pictures`),
  ]
    .filter(Boolean)
    .join(' and ');
  return `${words[0]?.toUpperCase() ?? ''}${words.slice(1)}`;
}
