// Installs what Debian brings for the tests, beside the packages of npm.
import { ensureReferences } from './setup.mjs';

ensureReferences();
