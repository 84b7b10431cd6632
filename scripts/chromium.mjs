/** The browser of the tests, the benches and the pictures: Debian's Chromium as it is built to run without a window. */
export const chromium = '/usr/bin/chromium-headless-shell';
