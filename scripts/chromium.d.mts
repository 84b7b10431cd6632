export const chromium: string;
