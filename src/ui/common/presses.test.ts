import {
  answered,
  beginPress,
  endsOf,
  leave,
  leftUnsent,
  pressed,
  unanswered,
  type Fate,
} from './presses';

const shelf = () => {
  const kept = new Map<string, string>();
  return {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, text: string) => void kept.set(key, text),
    removeItem: (key: string) => void kept.delete(key),
    kept,
  };
};

test('what has no answer is known in its order, and forgotten with its answer', () => {
  const at = shelf();
  pressed('one', at);
  pressed('two', at);
  expect(unanswered(at)).toEqual(['one', 'two']);
  answered('one', at);
  expect(unanswered(at)).toEqual(['two']);
  answered('two', at);
  expect(at.kept.size).toBe(0);
});

test('what is no list of names is none, and a browser that keeps nothing breaks nothing', () => {
  const at = shelf();
  for (const text of ['{', '7', '[1, {}]', 'null']) {
    at.setItem('ash-presses', text);
    expect(unanswered(at)).toEqual([]);
  }
  const full = {
    ...shelf(),
    setItem: () => {
      throw new Error('full');
    },
  };
  expect(() => pressed('one', full)).not.toThrow();
  expect(() => pressed('one', null)).not.toThrow();
});

test('each is followed to its end; one that nobody tells of stays for the next page', async () => {
  const at = shelf();
  for (const name of ['runs', 'lost', 'never']) pressed(name, at);
  const told: Record<string, (Fate | null)[]> = {
    runs: ['begun', 'begun', 'done'],
    lost: [null],
    never: ['barred'],
  };
  let waits = 0;
  const ends = await endsOf(unanswered(at), {
    fateOf: async (name) => told[name]!.shift()!,
    wait: async () => void waits++,
    shelf: at,
  });
  expect(ends).toEqual(['done', 'barred']);
  expect(waits).toBe(2);
  expect(unanswered(at)).toEqual(['lost']);
});

test('a press that was begun and not sent is known to the page after, once; sent or over, it is not', () => {
  const at = shelf();
  const over = beginPress('first', at);
  beginPress('second', at);
  pressed('on its way', at);
  expect(leftUnsent(at)).toBe(true);
  expect(leftUnsent(at)).toBe(false);
  over();
  const refusedHere = beginPress('third', at);
  refusedHere();
  expect(leftUnsent(at)).toBe(false);
  expect(unanswered(at)).toEqual(['on its way']);
});

test('an answer that comes while the next page is on its way is looked up there as well', () => {
  const at = shelf();
  pressed('one', at);
  leave();
  answered('one', at);
  expect(unanswered(at)).toEqual(['one']);
  leave(false);
  answered('one', at);
  expect(unanswered(at)).toEqual([]);
});
