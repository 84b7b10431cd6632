import { memo } from 'react';
import { useSearchParams } from 'react-router';
import { Trace } from '../sheets/trace/trace';

/** The router draws its routes anew with every request: the sheet only when its own data is other. */
const Sheet = memo(Trace);

export default function TraceRoute() {
  const [asked] = useSearchParams();
  return <Sheet asked={asked.get('symptom')} />;
}
