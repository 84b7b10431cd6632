// npm run demo: installs what is missing, builds when needed, serves the app with the demo builds loaded.
import { ensureBuild, ensurePackages } from './setup.mjs';

ensurePackages();
ensureBuild();
process.env.GONYX_DEMO = '1';
const { serve } = await import('./serve.mjs');
const first = Number(process.env.PORT ?? 4173);
let server = null;
for (let port = first; server === null && port < first + 20; port += 1) {
  try {
    server = await serve(port);
  } catch (error) {
    if (error?.code !== 'EADDRINUSE') throw error;
  }
}
if (server === null) {
  console.error(`No free port from ${first} to ${first + 19}: set PORT to another.`);
  process.exit(1);
}
console.log(`Gonyx with its demo builds: http://127.0.0.1:${server.address().port}/   (Ctrl C ends it)`);
