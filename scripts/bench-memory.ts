import { catalog } from '~/catalog';
import { match } from '~/core/trigger/match';
import { readCaptureFile } from './trigger';

/** Reads and matches one capture in a process of its own and prints the megabytes that process takes at its highest. */

const capture = readCaptureFile(process.argv[2]);
if (!capture.ok) throw new Error(capture.problem.sentence);
const found = match(capture.value, { wheels: catalog.wheels });
if (!found.ok) throw new Error(found.problem.sentence);
console.log(JSON.stringify({ megabytes: process.resourceUsage().maxRSS / 1024 }));
