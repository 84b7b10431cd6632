import { editReport, editRows } from './bench-edit';
console.log(editReport(await editRows(process.argv[2] as 'large')));
process.exit(0);
