import { runCommand } from './commands';

const { code, out, err } = runCommand(process.argv.slice(2));
process.stdout.write(out);
process.stderr.write(err);
process.exitCode = code;
