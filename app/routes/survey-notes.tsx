import { Notes } from '../sheets/survey/notes';

export default function NotesRoute() {
  return <Notes />;
}
