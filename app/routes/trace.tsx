import { Trace } from '../sheets/trace/trace';

export default function TraceRoute() {
  return <Trace />;
}
