import { demoBuilds } from '../demo';
import { findingsOf } from '../core/rules';
for (const b of demoBuilds())
  for (const f of findingsOf(b)) if (/^PW|^LO-6/.test(f.id)) console.log(b.id, f.id, f.severity, f.detail);
