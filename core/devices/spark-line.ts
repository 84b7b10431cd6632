/*
 * Lines by which an igniter of several channels reaches its coils: one for each channel. Their name is written and read here
 * and nowhere else.
 */
const NAME = /^spark-(\d+)$/;

/** The line of an igniter's channel, counted from 1. */
export const sparkLine = (channel: number): string => `spark-${channel}`;
/** The channel a line belongs to; null for any other line. */
export const sparkChannel = (line: string): number | null => {
  const found = NAME.exec(line)?.[1];
  return found === undefined ? null : Number(found);
};
