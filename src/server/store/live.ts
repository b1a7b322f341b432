/** How often it is looked whether anything changed, in milliseconds: soon enough to seem at once, and next to no work. */
const LOOK_EVERY = 400;
/** A line that says nothing keeps the connection from being taken for dead. */
const BREATHE_EVERY = 20_000;

/**
 * A stream of server-sent events (HTML Living Standard, 9.2) that names the stamp whenever it changes, until whoever
 * listens is gone.
 */
export function changesAsTheyCome(stamp: () => Promise<string>, gone: AbortSignal): ReadableStream<Uint8Array> {
  const words = new TextEncoder();
  let timer: ReturnType<typeof setTimeout> | undefined;
  let over = false;
  const end = () => {
    over = true;
    clearTimeout(timer);
  };
  return new ReadableStream({
    start(stream) {
      let before = '';
      let spoke = Date.now();
      const say = (text: string) => {
        spoke = Date.now();
        stream.enqueue(words.encode(text));
      };
      const close = () => {
        if (over) return;
        end();
        stream.close();
      };
      const look = async () => {
        try {
          const now = await stamp();
          if (over) return;
          if (now !== before) say(`event: changed\ndata: ${now}\n\n`);
          else if (Date.now() - spoke > BREATHE_EVERY) say(': still here\n\n');
          before = now;
          timer = setTimeout(look, LOOK_EVERY);
        } catch {
          // the page asks again when the stream ends
          close();
        }
      };
      gone.addEventListener('abort', close);
      void look();
    },
    cancel: end,
  });
}
