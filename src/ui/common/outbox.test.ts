import { Outbox, type Named, type Pictures, type Surroundings } from './outbox';

class Shelf {
  private readonly all = new Map<string, string>();
  get length() {
    return this.all.size;
  }
  key = (i: number) => [...this.all.keys()][i] ?? null;
  getItem = (key: string) => this.all.get(key) ?? null;
  setItem = (key: string, value: string) => void this.all.set(key, value);
  removeItem = (key: string) => void this.all.delete(key);
}

/** Pictures as a browser keeps them; `keeps` false is a browser that keeps none. */
function shelfOfPictures(keeps = true): Pictures & { all: Map<string, Blob> } {
  const all = new Map<string, Blob>();
  return {
    all,
    put: async (id, picture) => {
      if (!keeps) throw new Error('quota');
      all.set(id, picture);
    },
    get: async (id) => all.get(id),
    remove: async (id) => void all.delete(id),
  };
}

/** A program that keeps acts by their names, and can be cut off before or after it has heard one. */
function program() {
  const kept: string[] = [];
  const world = {
    kept,
    cut: 'no' as 'no' | 'before' | 'after',
    refuse: new Set<string>(),
    posts: 0,
  };
  const send: Surroundings['send'] = async (_url, text) => {
    world.posts++;
    if (world.cut === 'before') throw new Error('no connection');
    const { acts } = JSON.parse(text as string) as { acts: { id: string }[] };
    if (acts.some(({ id }) => world.refuse.has(id)))
      return {
        status: 400,
        json: async () => ({ problems: [{ where: 'x', what: 'bad', mend: '' }] }),
      };
    for (const { id } of acts) if (!kept.includes(id)) kept.push(id);
    if (world.cut === 'after') throw new Error('the answer was lost');
    return { status: 200, json: async () => ({ revision: kept.length }) };
  };
  return { ...world, world, send };
}

function outbox(
  send: Surroundings['send'],
  storage = new Shelf(),
  pictures = shelfOfPictures(),
  data = 'ours-1',
) {
  const later: (() => void)[] = [];
  const box = new Outbox({
    store: () => data,
    storage: storage,
    send,
    pictures,
    alone: (work) => work(),
    later: (work) => void later.push(work),
    now: () => 5,
  });
  return { box, storage, retry: async () => (later.shift()?.(), await box.drain()) };
}

test('acts are sent in order, and nothing waits afterwards', async () => {
  const { world, send } = program();
  const { box, storage } = outbox(send);
  for (const id of ['a', 'b', 'c']) box.add('/readings/1', { id });
  await box.drain();
  await box.drain();
  expect(world.kept).toEqual(['a', 'b', 'c']);
  expect(box.now()).toMatchObject({ waiting: 0, failing: false });
  expect(storage.length).toBe(0);
});

test('without a connection they stay, also in another page, and go when it is back', async () => {
  const { world, send } = program();
  const { box, storage } = outbox(send);
  world.cut = 'before';
  for (const id of ['a', 'b']) box.add('/readings/1', { id });
  await box.drain();
  expect(box.now()).toMatchObject({ waiting: 2, failing: true });
  world.cut = 'no';
  // The page was closed; the next one finds them.
  const again = outbox(send, storage);
  expect(again.box.waitingFor('/readings/1').map(({ id }) => id)).toEqual(['a', 'b']);
  again.box.add('/readings/1', { id: 'c' });
  await again.box.drain();
  await again.box.drain();
  expect(world.kept).toEqual(['a', 'b', 'c']);
});

test('where a reader went on to is known from what waits, also to another tab, until it is kept', async () => {
  const { world, send } = program();
  world.cut = 'before';
  const { box, storage, retry } = outbox(send);
  box.add('/readings/1', { id: 'a' }, 'second cell');
  box.add('/readings/1', { id: 'b' }, 'third cell');
  box.add('/readings/2', { id: 'c' }, 'elsewhere');
  box.add('/readings/1', { id: 'undo' });
  await box.drain();
  const other = outbox(send, storage).box;
  expect(other.placeWaiting('/readings/1')).toBe('third cell');
  expect(other.placeWaiting('/readings/3')).toBeNull();
  world.cut = 'no';
  await retry();
  expect(box.placeWaiting('/readings/1')).toBeNull();
});

test('an act whose answer was lost is done once', async () => {
  const { world, send } = program();
  const { box, retry } = outbox(send);
  world.cut = 'after';
  box.add('/readings/1', { id: 'a' });
  await box.drain();
  expect(world.kept).toEqual(['a']);
  expect(box.now().waiting).toBe(1);
  world.cut = 'no';
  await retry();
  expect(world.kept).toEqual(['a']);
  expect(box.now().waiting).toBe(0);
});

test('an act that is refused is told and takes no good one with it', async () => {
  const { world, send } = program();
  const { box } = outbox(send);
  world.cut = 'before';
  for (const id of ['a', 'bad', 'c']) box.add('/readings/1', { id });
  await box.drain();
  world.cut = 'no';
  world.refuse.add('bad');
  await box.drain();
  expect(world.kept).toEqual(['a', 'c']);
  expect(box.now()).toMatchObject({
    waiting: 0,
    refused: [{ id: 'bad', picture: false, problems: [{ what: 'bad' }] }],
  });
});

test('what was refused stands on every page until a person has seen it', async () => {
  const { world, send } = program();
  world.refuse.add('bad');
  const first = outbox(send);
  first.box.add('/readings/1', { id: 'bad' });
  await first.box.drain();
  // The page that did it is gone.
  const { box, storage } = outbox(send, first.storage);
  await box.drain();
  expect(world.kept).toEqual([]);
  expect(box.waitingFor('/readings/1')).toEqual([]);
  const [refused] = box.now().refused;
  expect(refused).toMatchObject({ id: 'bad' });
  box.seen(refused!.key);
  expect(box.now().refused).toEqual([]);
  expect(storage.length).toBe(0);
});

/** A program that holds some data, and takes nothing that was made with other. */
function holding(data: string) {
  const came: string[] = [];
  const world = { data, cut: false };
  const send: Surroundings['send'] = async (_url, body, store) => {
    if (world.cut) throw new Error('no connection');
    if (store !== world.data)
      return { status: 409, other: world.data, json: async () => ({ problems: [] }) };
    came.push(
      typeof body === 'string' ? (JSON.parse(body) as { acts: Named[] }).acts[0]!.id : 'picture',
    );
    return { status: 200, json: async () => ({ revision: came.length }) };
  };
  return { came, world, send };
}

test('what was made with other data does not land in this, can be saved, and goes where it belongs', async () => {
  const { came, world, send } = holding('ours-1');
  const first = outbox(send);
  world.cut = true;
  first.box.add('/readings/3', { id: 'a' });
  first.box.addPicture('/prints/1/photos', { id: 'p' }, new Blob(['pixels']));
  await first.box.drain();
  // Another store at the same address: learned from the answer, or from the page that is opened then.
  world.cut = false;
  world.data = 'theirs-1';
  await first.box.drain();
  expect(first.box.now()).toMatchObject({ waiting: 0, failing: false, aside: 2, asidePictures: 1 });
  const pictures = shelfOfPictures();
  pictures.all.set('p', new Blob(['pixels']));
  const { box } = outbox(send, first.storage, pictures, 'theirs-1');
  box.add('/readings/3', { id: 'b' });
  await box.drain();
  expect(came).toEqual(['b']);
  expect(box.waitingFor('/readings/3')).toEqual([]);
  const saved = JSON.parse(await (await box.asideFile()).text()) as { acts: unknown[] };
  expect(saved.acts).toEqual([
    { store: 'ours-1', url: '/readings/3', act: { id: 'a' } },
    { store: 'ours-1', url: '/prints/1/photos', act: { id: 'p' }, picture: btoa('pixels') },
  ]);
  world.data = 'ours-1';
  const home = outbox(send, first.storage, pictures);
  await home.box.drain();
  expect(came).toEqual(['b', 'a', 'picture']);
  expect(home.box.now().aside).toBe(0);
});

test('what stands aside is thrown away only when a person says so', async () => {
  const { came, send } = holding('theirs-1');
  const { box, storage } = outbox(send);
  box.add('/readings/3', { id: 'a' });
  await box.drain();
  expect(box.now().aside).toBe(1);
  box.throwAside();
  expect(box.now().aside).toBe(0);
  expect(storage.length).toBe(0);
  expect(came).toEqual([]);
});

test('acts for several addresses keep their order among each other', async () => {
  const sent: string[] = [];
  const { box } = outbox(async (url, text) => {
    sent.push(`${url} ${(JSON.parse(text as string) as { acts: unknown[] }).acts.length}`);
    return { status: 200, json: async () => ({ revision: 1 }) };
  });
  box.add('/a', { id: '1' });
  box.add('/b', { id: '2' });
  box.add('/a', { id: '3' });
  await box.drain();
  await box.drain();
  expect(sent).toEqual(['/a 1', '/b 1', '/a 1']);
});

test('where the browser keeps nothing, acts wait in memory and are sent all the same', async () => {
  const { world, send } = program();
  const full = new Shelf();
  full.setItem = () => {
    throw new Error('quota');
  };
  const { box } = outbox(send, full);
  world.cut = 'before';
  for (const id of ['a', 'b']) box.add('/readings/1', { id });
  await box.drain();
  expect(box.now()).toMatchObject({ waiting: 2, failing: true });
  world.cut = 'no';
  await box.drain();
  await box.drain();
  expect(world.kept).toEqual(['a', 'b']);
});

test('what is added while a turn is given back is sent without another act', async () => {
  const { world, send } = program();
  let giveBack = () => {};
  const turn = new Promise<void>((done) => (giveBack = done));
  const box = new Outbox({
    store: () => 'ours-1',
    storage: new Shelf(),
    send,
    pictures: shelfOfPictures(),
    alone: async (work) => {
      await work();
      await turn;
    },
    later: () => undefined,
    now: () => 5,
  });
  box.add('/readings/1', { id: 'a' });
  await new Promise((done) => setTimeout(done, 0));
  expect(world.kept).toEqual(['a']);
  box.add('/readings/1', { id: 'b' });
  giveBack();
  await box.drain();
  expect(world.kept).toEqual(['a', 'b']);
  expect(box.now()).toMatchObject({ waiting: 0, failing: false });
});

/** What came of acts and pictures, in order. */
function gallery() {
  const came: string[] = [];
  const world = { cut: false, shut: false };
  const send: Surroundings['send'] = async (url, body) => {
    if (world.cut) throw new Error('no connection');
    if (world.shut) return { status: 403, shut: true, json: async () => null };
    if (typeof body === 'string')
      for (const { id } of (JSON.parse(body) as { acts: { id: string }[] }).acts) came.push(id);
    else came.push(`${new URL(url, 'http://x').searchParams.get('act')}: ${await body.text()}`);
    return { status: 200, json: async () => ({ revision: came.length }) };
  };
  return { came, world, send };
}

test('a picture is sent in its turn among the acts, also by a page that is opened later', async () => {
  const { came, world, send } = gallery();
  const first = outbox(send);
  world.cut = true;
  first.box.add('/readings/1', { id: 'a' });
  first.box.addPicture('/prints/1/photos', { id: 'p' }, new Blob(['pixels']));
  first.box.add('/readings/1', { id: 'b' });
  await first.box.drain();
  expect(first.box.now()).toMatchObject({ waiting: 3, pictures: 1, failing: true });
  world.cut = false;
  const pictures = shelfOfPictures();
  pictures.all.set('p', new Blob(['pixels']));
  const { box, storage } = outbox(send, first.storage, pictures);
  await box.drain();
  expect(came).toEqual(['a', 'p: pixels', 'b']);
  expect(storage.length).toBe(0);
  expect(pictures.all.size).toBe(0);
});

test('where the browser keeps no pictures, they go as long as the page is open', async () => {
  const { came, world, send } = gallery();
  const { box } = outbox(send, new Shelf(), shelfOfPictures(false));
  world.cut = true;
  box.addPicture('/prints/1/photos', { id: 'p' }, new Blob(['pixels']));
  await box.drain();
  expect(await (await box.picture('p'))?.text()).toBe('pixels');
  world.cut = false;
  await box.drain();
  expect(came).toEqual(['p: pixels']);
});

test('a picture that the browser has lost is told, and holds nothing up', async () => {
  const { came, world, send } = gallery();
  const first = outbox(send);
  world.cut = true;
  first.box.addPicture('/prints/1/photos', { id: 'p' }, new Blob(['pixels']));
  first.box.add('/readings/1', { id: 'b' });
  await first.box.drain();
  world.cut = false;
  const { box } = outbox(send, first.storage);
  await box.drain();
  expect(box.now().refused).toMatchObject([{ picture: true, problems: [{ where: 'picture' }] }]);
  expect(came).toEqual(['b']);
});

test('on a device that is put out everything waits, and goes when it is let in again', async () => {
  const { came, world, send } = gallery();
  const { box, storage } = outbox(send);
  world.shut = true;
  box.add('/readings/1', { id: 'a' });
  await box.drain();
  expect(box.now()).toMatchObject({ waiting: 1, shut: true });
  expect(storage.length).toBe(1);
  world.shut = false;
  await box.drain();
  expect(came).toEqual(['a']);
  expect(box.now()).toMatchObject({ waiting: 0, shut: false });
});
