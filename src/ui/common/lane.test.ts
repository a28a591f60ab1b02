import { Lane } from './lane';

type Ask = (spec: string) => Promise<string>;

/** A lane whose helpers answer as `ask` says, and what came of it. */
function laneOf(ask: Ask) {
  const answers: [string, number][] = [];
  const failures: [string, number][] = [];
  const breaks: ((error: Error) => void)[] = [];
  let closed = 0;
  const lane = new Lane<Ask, string, string>(
    (broke) => {
      breaks.push(broke);
      return { remote: ask, close: () => void (closed += 1) };
    },
    (remote, spec) => remote(spec),
    (found, wish) => answers.push([found, wish]),
    (error, wish) => failures.push([error.message, wish]),
  );
  return { lane, answers, failures, breaks, closed: () => closed };
}

const settle = () => new Promise((done) => setTimeout(done, 0));

describe('a lane of wishes', () => {
  it('answers the one under way and then only the newest', async () => {
    const { lane, answers } = laneOf(async (spec) => `made ${spec}`);
    const first = lane.want({ spec: 'a', wish: 1 });
    await lane.want({ spec: 'b', wish: 2 });
    await lane.want({ spec: 'c', wish: 3 });
    await first;
    expect(answers).toEqual([
      ['made a', 1],
      ['made c', 3],
    ]);
  });

  it('tells of a wish that failed, and answers the next', async () => {
    const { lane, answers, failures, breaks } = laneOf(async (spec) => {
      if (spec === 'bad') throw new Error('no room');
      return spec;
    });
    await lane.want({ spec: 'bad', wish: 1 });
    await lane.want({ spec: 'good', wish: 2 });
    expect(failures).toEqual([['no room', 1]]);
    expect(answers).toEqual([['good', 2]]);
    // It was the wish that failed, not the helper.
    expect(breaks).toHaveLength(1);
  });

  it('replaces a helper that broke in the middle of a wish', async () => {
    const { lane, answers, failures, breaks, closed } = laneOf((spec) =>
      spec === 'stuck' ? new Promise(() => undefined) : Promise.resolve(spec),
    );
    const stuck = lane.want({ spec: 'stuck', wish: 1 });
    await settle();
    breaks[0]!(new Error('the worker stopped'));
    await stuck;
    expect(failures).toEqual([['the worker stopped', 1]]);
    expect(closed()).toBe(1);

    await lane.want({ spec: 'next', wish: 2 });
    expect(answers).toEqual([['next', 2]]);
    expect(breaks).toHaveLength(2);
    // The dead one has no say over the one that took its place.
    breaks[0]!(new Error('late'));
    expect(closed()).toBe(1);
  });

  it('answers what waited while a helper broke', async () => {
    const { lane, answers, failures, breaks } = laneOf((spec) =>
      spec === 'stuck' ? new Promise(() => undefined) : Promise.resolve(spec),
    );
    const stuck = lane.want({ spec: 'stuck', wish: 1 });
    void lane.want({ spec: 'newest', wish: 2 });
    await settle();
    breaks[0]!(new Error('the worker stopped'));
    await stuck;
    expect(failures).toHaveLength(1);
    expect(answers).toEqual([['newest', 2]]);
  });

  it('replaces one that broke while nothing was asked, without a word', async () => {
    const { lane, answers, failures, breaks } = laneOf(async (spec) => spec);
    await lane.want({ spec: 'a', wish: 1 });
    breaks[0]!(new Error('the worker stopped'));
    await lane.want({ spec: 'b', wish: 2 });
    expect(failures).toEqual([]);
    expect(answers.map(([found]) => found)).toEqual(['a', 'b']);
    expect(breaks).toHaveLength(2);
  });
});
