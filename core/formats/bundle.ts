import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { FILE_LIMITS, parseBuild, type ParseOptions } from '../build/parse';
import type { Build } from '../build/schema';
import type { Photo } from '../survey/records';
import { fail, ok, type Result } from '../problem';

/** Limits of a bundle, checked by the sizes in its directory before anything is unpacked. */
export const BUNDLE_LIMITS = { bytes: 120_000_000, photoBytes: 20_000_000, files: 260 } as const;

export const photoEnding: Record<Photo['type'], string> = {
  'image/jpeg': 'jpg',
  'image/png': 'png',
  'image/webp': 'webp',
};
const photoName = (photo: Photo): string => `photos/${photo.id}.${photoEnding[photo.type]}`;

export interface Bundle {
  readonly build: Build;
  /** Pictures by photo id. */
  readonly photos: ReadonlyMap<string, Uint8Array>;
  /** Photo ids the build names and the file does not carry. */
  readonly missing: readonly string[];
}

/** True when these bytes begin like a zip archive (APPNOTE 4.3.7: local file header signature). */
export const isZip = (bytes: Uint8Array): boolean =>
  bytes[0] === 0x50 && bytes[1] === 0x4b && bytes[2] === 0x03 && bytes[3] === 0x04;

/**
 * A build and its photographs as one zip archive: `build.json`, and `photos/<id>.jpg` beside it. Pictures are stored as
 * they are, the text is deflated. Same input, same bytes: no clock is read.
 */
export function packBundle(build: Build, photos: ReadonlyMap<string, Uint8Array>): Uint8Array {
  const mtime = new Date(1980, 0, 1);
  const files: Parameters<typeof zipSync>[0] = {
    'build.json': [strToU8(JSON.stringify(build, null, 1)), { level: 6, mtime }],
  };
  for (const photo of build.survey.photos) {
    const bytes = photos.get(photo.id);
    if (bytes) files[photoName(photo)] = [bytes, { level: 0, mtime }];
  }
  return zipSync(files);
}

/**
 * Reads a bundle, or plain JSON of a build. Never throws on bad input; nothing is believed before its size is known. A build
 * whose id no address could hold takes `standIn`, where one is given.
 */
export function readBundle(bytes: Uint8Array, options: ParseOptions = {}): Result<Bundle> {
  if (!isZip(bytes)) {
    const parsed = parseBuild(strFromU8(bytes), options);
    return parsed.ok ? ok(withPhotos(parsed.value, new Map())) : parsed;
  }
  let problem: string | null = null;
  let count = 0;
  let total = 0;
  let files: Record<string, Uint8Array>;
  try {
    files = unzipSync(bytes, {
      filter: (file) => {
        count += 1;
        const isBuild = file.name === 'build.json';
        const most = isBuild ? FILE_LIMITS.bytes : BUNDLE_LIMITS.photoBytes;
        if (!isBuild && !/^photos\/[a-z0-9-]{1,60}\.(jpg|png|webp)$/.test(file.name)) return false;
        total += file.originalSize;
        if (file.originalSize > most || total > BUNDLE_LIMITS.bytes)
          problem ??= `${file.name} in the archive is too large to be part of a Gonyx build.`;
        if (count > BUNDLE_LIMITS.files)
          problem ??= `The archive holds more than ${BUNDLE_LIMITS.files} files: it is not a Gonyx build.`;
        return problem === null;
      },
    });
  } catch {
    return fail('not-zip', '', 'The archive is damaged or cut short: export it again, or fetch it again.');
  }
  if (problem !== null) return fail('too-large', '', problem);
  const text = files['build.json'];
  if (!text) return fail('no-build', 'build.json', 'The archive has no build.json: it is not a Gonyx build.');
  const parsed = parseBuild(strFromU8(text), options);
  if (!parsed.ok) return parsed;
  return ok(withPhotos(parsed.value, new Map(Object.entries(files))));
}

function withPhotos(build: Build, files: ReadonlyMap<string, Uint8Array>): Bundle {
  const photos = new Map<string, Uint8Array>();
  const missing: string[] = [];
  for (const photo of build.survey.photos) {
    const bytes = files.get(photoName(photo));
    if (bytes && looksLike(photo.type, bytes)) photos.set(photo.id, bytes);
    else missing.push(photo.id);
  }
  return { build, photos, missing };
}

/** First bytes of the picture formats Gonyx keeps (ISO 10918-1 SOI, PNG signature, RIFF/WEBP). */
function looksLike(type: Photo['type'], bytes: Uint8Array): boolean {
  if (type === 'image/jpeg') return bytes[0] === 0xff && bytes[1] === 0xd8;
  if (type === 'image/png') return bytes[0] === 0x89 && bytes[1] === 0x50 && bytes[2] === 0x4e && bytes[3] === 0x47;
  return strFromU8(bytes.slice(0, 4)) === 'RIFF' && strFromU8(bytes.slice(8, 12)) === 'WEBP';
}
