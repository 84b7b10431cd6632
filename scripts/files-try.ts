import { mutateFiles } from '../tests/chaos/files';
const a = mutateFiles(Number(process.argv[2]), Number(process.argv[3] ?? 1), 2);
console.log(a.files, 'uncaught', a.uncaught.length, 'unfit', a.unfit.length, 'slow', a.slow.length);
console.log(a.uncaught.slice(0, 12).join('\n---\n'));
const seen = new Map<string, string>();
for (const u of a.unfit) {
  const k = u
    .replace(/[\d.]+/g, '#')
    .replace(/\[#\]/g, '[]')
    .slice(0, 90);
  if (!seen.has(k)) seen.set(k, u);
}
console.log([...seen.values()].slice(0, 60).join('\n'));
console.log(a.slow.slice(0, 20).join('\n'));
