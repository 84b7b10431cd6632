// Serves the built app with security headers. `PORT` or 4173; listens on this machine only unless HOST says otherwise.
import './production.mjs';
import { randomBytes } from 'node:crypto';
import path from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { createRequestHandler } from '@react-router/express';
import compression from 'compression';
import express from 'express';

const root = process.env.GONYX_ROOT ?? path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');

const policy = (nonce) =>
  [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}'`,
    `style-src 'self' 'nonce-${nonce}'`,
    "style-src-attr 'unsafe-inline'",
    "img-src 'self' blob: data:",
    "font-src 'self'",
    "connect-src 'self'",
    "worker-src 'self'",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ');

const isLocal = ({ socket }) => /^(::1|(::ffff:)?127\.)/.test(socket.remoteAddress ?? '');

export async function createApp() {
  const build = await import(pathToFileURL(path.join(root, 'build/server/index.js')).href);
  const app = express();
  app.disable('x-powered-by');
  // To this very machine packing costs more time than it saves.
  app.use(compression({ filter: (request, response) => !isLocal(request) && compression.filter(request, response) }));
  app.use((request, response, next) => {
    const nonce = randomBytes(16).toString('base64');
    response.locals.nonce = nonce;
    response.setHeader('Content-Security-Policy', policy(nonce));
    response.setHeader('Referrer-Policy', 'no-referrer');
    response.setHeader('X-Content-Type-Options', 'nosniff');
    response.setHeader('Cross-Origin-Opener-Policy', 'same-origin');
    response.setHeader('Permissions-Policy', 'camera=(), microphone=(), geolocation=()');
    next();
  });
  app.use('/assets', express.static(path.join(root, 'build/client/assets'), { immutable: true, maxAge: '1y' }));
  app.use(express.static(path.join(root, 'build/client'), { maxAge: 0 }));
  app.use(createRequestHandler({ build, getLoadContext: (_request, response) => ({ nonce: response.locals.nonce }) }));
  return app;
}

export async function serve(port = Number(process.env.PORT ?? 4173), host = process.env.HOST ?? '127.0.0.1') {
  const app = await createApp();
  return await new Promise((resolve, reject) => {
    const server = app.listen(port, host, (error) => (error ? reject(error) : resolve(server)));
  });
}

if (process.argv[1] && path.resolve(process.argv[1]) === fileURLToPath(import.meta.url)) {
  const server = await serve();
  const { port, address } = server.address();
  console.log(`Gonyx is served at http://${address}:${port}/`);
}
