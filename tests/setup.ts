import fc from 'fast-check';

/** Property tests run from one seed, so that a run can be repeated; GONYX_SEED tries another. A failing seed is printed. */
fc.configureGlobal({ seed: Number(process.env.GONYX_SEED ?? 20261123) });
