import { IoSheet } from '../sheets/allot/io-sheet';

export default function IoSheetRoute() {
  return <IoSheet />;
}
