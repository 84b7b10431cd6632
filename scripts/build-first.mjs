// What a script that drives the app needs first: packages, the browser, and a build of what is here.
import { ensureBuild, ensureChromium, ensurePackages } from './setup.mjs';

ensurePackages();
ensureChromium();
ensureBuild();
