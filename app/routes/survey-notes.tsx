import { memo } from 'react';
import { Notes } from '../sheets/survey/notes';

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(Notes);

export default function NotesRoute() {
  return <Sheet />;
}
