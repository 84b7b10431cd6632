import { spawn } from 'node:child_process';

/** Serves the built app at a port of its own, so that no other server can be taken for it. */
export async function served(): Promise<{ base: string; stop: () => void }> {
  const child = spawn(process.execPath, ['scripts/serve.mjs'], {
    env: { ...process.env, PORT: '0' },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const base = await new Promise<string>((resolve, reject) => {
    child.stdout.on('data', (said: Buffer) => {
      const address = /http:\S+[^/\s]/.exec(said.toString());
      if (address) resolve(address[0]);
    });
    child.once('exit', () => reject(new Error('the app is not served: run npm run build first')));
  });
  return { base, stop: () => void child.kill() };
}
