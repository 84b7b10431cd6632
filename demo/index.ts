import type { Build } from '~/core/build/schema';
import { launch } from './launch';
import { pellworth } from './pellworth';
import { twin } from './twin';

/** The demo builds, made by the same edits a person makes. */
export const demoBuilds = (): Build[] => [pellworth(), twin(), launch()];
