import { isRouteErrorResponse, Outlet, useRevalidator } from 'react-router';
import { Button } from '../ui/button';
import { Row, Stack } from '../ui/text';
import { useBuild } from '../build/context';
import { exportBuild } from '../storage/export';
import { messageOf } from '../storage/failure';
import type { Route } from './+types/sheet';

/** What stands around the sheets is the layout's; here one that breaks is caught, and takes nothing else with it. */
export default function SheetLayout() {
  return <Outlet />;
}

/** A sheet that broke: the spine, undo, the command box and the export still work. */
export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  const { build } = useBuild();
  const { revalidate } = useRevalidator();
  const words = isRouteErrorResponse(error) ? `${error.status} ${error.statusText}` : messageOf(error);
  return (
    <Stack $gap={3} role="alert" style={{ maxWidth: 'var(--measure)' }}>
      <h2>
        <strong>This sheet broke</strong>
      </h2>
      <p>It stopped at: {words}</p>
      <p>
        The build is kept on this device as it was. The other sheets still work; undo takes back the last edit, if that
        was what it stumbled over.
      </p>
      <Row>
        <Button weight="act" onPress={() => void revalidate()}>
          Try again
        </Button>
        <Button onPress={() => void exportBuild(build)}>Export this build</Button>
      </Row>
    </Stack>
  );
}
