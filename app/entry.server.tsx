import { PassThrough } from 'node:stream';
import { createReadableStreamFromReadable } from '@react-router/node';
import { renderToPipeableStream } from 'react-dom/server';
import type { EntryContext } from 'react-router';
import { ServerRouter } from 'react-router';
import { ServerStyleSheet, StyleSheetManager } from 'styled-components';
import { NonceContext, nonceOf } from './nonce';

const TIMEOUT_MILLISECONDS = 5000;

/** Renders the whole page, then puts the collected styles before </head>, so that nothing flashes. */
export default function handleRequest(
  request: Request,
  status: number,
  headers: Headers,
  context: EntryContext,
  loadContext: unknown,
): Promise<Response> {
  const nonce = nonceOf(loadContext);
  const sheet = new ServerStyleSheet({ nonce });
  return new Promise((resolve, reject) => {
    let failed = false;
    const { pipe, abort } = renderToPipeableStream(
      <StyleSheetManager sheet={sheet.instance}>
        <NonceContext value={nonce}>
          <ServerRouter context={context} url={request.url} nonce={nonce} />
        </NonceContext>
      </StyleSheetManager>,
      {
        nonce,
        onAllReady() {
          const body = new PassThrough();
          const chunks: Buffer[] = [];
          body.on('data', (chunk: Buffer) => chunks.push(chunk));
          body.on('end', () => {
            const html = Buffer.concat(chunks).toString('utf8');
            // By a function: styles may hold signs that a replacement text would take for its own.
            const styled = html.replace('</head>', () => `${sheet.getStyleTags()}</head>`);
            sheet.seal();
            const out = new PassThrough();
            out.end(styled);
            headers.set('Content-Type', 'text/html; charset=utf-8');
            // A page holds this person's theme and a nonce of its own: nobody else may be given it.
            headers.set('Cache-Control', 'private, no-cache');
            headers.append('Vary', 'Cookie');
            resolve(new Response(createReadableStreamFromReadable(out), { headers, status: failed ? 500 : status }));
          });
          pipe(body);
        },
        onShellError(error) {
          sheet.seal();
          reject(error instanceof Error ? error : new Error(String(error)));
        },
        onError(error) {
          failed = true;
          process.stderr.write(`render: ${error instanceof Error ? (error.stack ?? error.message) : String(error)}\n`);
        },
      },
    );
    setTimeout(abort, TIMEOUT_MILLISECONDS).unref();
  });
}
