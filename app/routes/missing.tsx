import { Link } from 'react-router';
import { Stack } from '../ui/text';
import { data } from 'react-router';

export const loader = () => data(null, { status: 404 });

export default function Missing() {
  return (
    <Stack as="main" style={{ padding: 'var(--space-6)' }}>
      <title>No such page · Gonyx</title>
      <h1>There is no such page</h1>
      <p>
        <Link to="/">Go to the garage</Link>
      </p>
    </Stack>
  );
}
