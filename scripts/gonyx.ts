import { BUG, failedWords, runCommand } from './commands';

const { code, out, err, later } = runCommand(process.argv.slice(2));
process.stdout.write(out);
process.stderr.write(err);
process.exitCode = code;
if (later)
  try {
    process.stdout.write(await later());
  } catch (error) {
    process.stderr.write(failedWords(error));
    process.exitCode = BUG;
  }
