/** As long as one slice of work may hold up a key press. */
const SLICE_MILLISECONDS = 10;

/** Lets the browser answer what has come in meanwhile. */
export const pause = (): Promise<void> =>
  new Promise((resolve) => {
    const channel = new MessageChannel();
    channel.port1.onmessage = () => {
      channel.port1.close();
      resolve();
    };
    channel.port2.postMessage(null);
  });

/**
 * Runs steps in slices, with room for a key press between. A step that breaks ends it quietly: whoever draws what it was for
 * meets the same error and says so.
 *
 * @param goesOn Asked between slices: false once nobody needs it any more.
 */
export async function inSlices(steps: Iterator<unknown>, goesOn: () => boolean = () => true): Promise<void> {
  let since = performance.now();
  try {
    while (goesOn() && !steps.next().done) {
      if (performance.now() - since < SLICE_MILLISECONDS) continue;
      await pause();
      since = performance.now();
    }
  } catch {
    return;
  }
}
