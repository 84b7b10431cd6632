import { editReport, editRows } from './bench-edit';
console.log(editReport(await editRows('demo')));
process.exit(0);
