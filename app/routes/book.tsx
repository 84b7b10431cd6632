import { memo } from 'react';
import { Book } from '../sheets/book/book';

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(Book);

export default function BookRoute() {
  return <Sheet />;
}
