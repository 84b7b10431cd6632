import { destinationOf } from '../build/destination';
import type { Build, Device } from '../build/schema';
import { KEY_RUN, KEY_START, deviceEnd, spliceEnd, type EndKey } from '../ends/ends';

/** Where the key's two feeds enter the loom: at the switch itself, or at the body plug that brings them. */
export interface KeyFeeds {
  readonly run: EndKey;
  readonly start: EndKey;
}

/** A terminal of a body plug that brings a feed of the key. */
export interface BroughtFeed {
  readonly source: 'key-run' | 'key-start';
  readonly end: EndKey;
  readonly device: Device;
}

/** Where each feed of the key starts: a splice behind the cavity of the plug that brings it, or the switch itself. */
export function keyFeeds(build: Build): KeyFeeds {
  const feeds: Record<'key-run' | 'key-start', EndKey> = { 'key-run': KEY_RUN, 'key-start': KEY_START };
  for (const { source } of broughtFeeds(build)) feeds[source] = spliceEnd(source);
  return { run: feeds['key-run'], start: feeds['key-start'] };
}

/** The first terminal that brings each feed: two plugs cannot both be the source. */
export function broughtFeeds(build: Build): BroughtFeed[] {
  const found = new Map<string, BroughtFeed>();
  for (const device of build.devices)
    for (const terminal of build.kinds[device.kindId]?.terminals ?? []) {
      const destination = destinationOf(device, terminal);
      if (destination.to === 'source' && !found.has(destination.source))
        found.set(destination.source, { source: destination.source, end: deviceEnd(device.id, terminal.id), device });
    }
  return [...found.values()];
}
