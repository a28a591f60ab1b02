import { follow, STORE_TOPIC } from '../server/live';

export const dynamic = 'force-dynamic';

/** What pages may follow, and how much of it at once. */
const TOPIC =
  /^\/(readings\/\d{1,15}|machines\/\d{1,15}\/link|prints\/\d{1,15}\/photos|ladders\/\d{1,15}\/spec|files\/\d{1,15}\/run|phones|owed)$/;
const MOST_TOPICS = 8;
/** A word now and then, ms, by which a connection that is gone is noticed. */
const STILL_HERE_MS = 20_000;

/** Asked by a page that wants to know why it is not answered. */
export const HEAD = () => new Response(null, { headers: { 'cache-control': 'no-store' } });

/** Stays open and names whatever changes of what is followed, with its revision: `?of=/readings/3&of=…`. */
export function GET(request: Request) {
  const topics = new URL(request.url).searchParams
    .getAll('of')
    .filter((topic) => TOPIC.test(topic))
    .slice(0, MOST_TOPICS);
  let end = () => {};
  const stream = new ReadableStream<string>({
    start(controller) {
      const say = (text: string) => {
        try {
          controller.enqueue(text);
        } catch {
          end();
        }
      };
      const ends = topics.map((topic) =>
        follow(topic, (revision = 0) => say(`data: ${topic} ${revision}\n\n`)),
      );
      // Other data took the place of what this page follows: it asks anew, and is told.
      ends.push(follow(STORE_TOPIC, () => (end(), controller.close())));
      const timer = setInterval(() => say(': still here\n\n'), STILL_HERE_MS);
      end = () => {
        clearInterval(timer);
        for (const one of ends) one();
      };
      say('retry: 1000\n\n');
    },
    cancel: () => end(),
  });
  request.signal.addEventListener('abort', () => end());
  return new Response(stream.pipeThrough(new TextEncoderStream()), {
    headers: {
      'content-type': 'text/event-stream',
      // Not compressed: each word leaves at once.
      'cache-control': 'no-store, no-transform',
    },
  });
}
