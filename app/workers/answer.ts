/**
 * What a worker answers, or why it cannot: a worker whose program does not load says nothing by itself, and whoever waits for
 * its answer would wait for ever.
 */
export function answerOf<T>(worker: Worker, answer: Promise<T>): Promise<T> {
  return new Promise((resolve, reject) => {
    worker.addEventListener('error', (event) => {
      // Its message is empty when the program could not be fetched.
      reject(new Error(event.message || 'its program could not be loaded. Load the page again'));
    });
    answer.then(resolve, reject);
  });
}
