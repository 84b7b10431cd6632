import { Book } from '../sheets/book/book';

export default function BookRoute() {
  return <Book />;
}
