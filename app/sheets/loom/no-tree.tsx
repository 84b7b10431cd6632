import { Link, useParams } from 'react-router';
import { SheetFrame } from '../../parts/sheet-frame';
import { Soft } from '../../ui/text';

/** What stands here once the loom lies in a tree. */
export function NoTree() {
  const { buildId } = useParams();
  return (
    <SheetFrame summary={<Soft>Not laid in a tree yet.</Soft>}>
      <p>
        The loom does not lie in a tree yet. <Link to={`/build/${buildId}/loom`}>Lay it on the plan first</Link>: one
        press proposes a tree from the list of devices.
      </p>
    </SheetFrame>
  );
}
