import type { Build } from '~/core/build/schema';
import { fail, ok, type Result } from '~/core/problem';
import type { Photo } from '~/core/survey/records';
import { keysOf, partsOf, tuple, type Database } from './database';

/** Longest side a photograph is kept at, pixels: enough to read a plug's marking. */
const LONGEST = 1600;
const QUALITY = 0.82;
/** A camera's file may be this large before it is scaled down. */
const MOST_BYTES = 40_000_000;

export const photoKey = (buildId: string, photoId: string): string => tuple(buildId, photoId);
/** As keys were made before; a photo's id has no bar in it. */
const oldKey = (buildId: string, photoId: string): string => `${buildId}|${photoId}`;

/** A picture of a build, under its key or the one of an earlier version; null when it is gone. */
export const readPhoto = async (db: Pick<Database, 'photos'>, buildId: string, photoId: string): Promise<Blob | null> =>
  (await db.photos.getItem<Blob>(photoKey(buildId, photoId))) ?? db.photos.getItem<Blob>(oldKey(buildId, photoId));

/** Reads a picture and scales it down. The original is not kept. */
export async function scalePhoto(
  file: Blob,
  name: string,
): Promise<Result<{ blob: Blob; width: number; height: number }>> {
  if (file.size > MOST_BYTES)
    return fail('too-large', name, `${name} is larger than 40 MB: take it at a smaller size.`);
  let picture: ImageBitmap;
  try {
    picture = await createImageBitmap(file, { imageOrientation: 'from-image' });
  } catch {
    return fail('not-a-picture', name, `${name} is no picture this browser can read: JPEG, PNG and WebP are.`);
  }
  const scale = Math.min(1, LONGEST / Math.max(picture.width, picture.height));
  const [width, height] = [
    Math.max(1, Math.round(picture.width * scale)),
    Math.max(1, Math.round(picture.height * scale)),
  ];
  const canvas = document.createElement('canvas');
  canvas.width = width;
  canvas.height = height;
  const context = canvas.getContext('2d');
  if (!context) return fail('no-canvas', name, 'This browser cannot scale pictures.');
  context.drawImage(picture, 0, 0, width, height);
  picture.close();
  const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/jpeg', QUALITY));
  return blob ? ok({ blob, width, height }) : fail('no-canvas', name, `${name} could not be scaled down.`);
}

/** Writes the picture first; its line in the build comes after, so that a line never points at nothing. */
export async function storePhoto(
  db: Pick<Database, 'photos'>,
  buildId: string,
  file: File,
  about: string,
): Promise<Result<Photo>> {
  const scaled = await scalePhoto(file, file.name);
  if (!scaled.ok) return scaled;
  const { blob, width, height } = scaled.value;
  const id = crypto.randomUUID();
  try {
    await db.photos.setItem(photoKey(buildId, id), blob);
  } catch {
    return fail(
      'storage',
      file.name,
      `There is no room on this device for ${file.name}: delete a few, or export the build.`,
    );
  }
  return ok({
    id,
    about,
    caption: file.name.replace(/\.[a-z0-9]+$/i, '').slice(0, 200),
    takenAt: new Date().toISOString(),
    type: 'image/jpeg',
    width,
    height,
    bytes: blob.size,
  });
}

/** The pictures of a build as bytes, and the ids of those that are gone. */
export async function readPhotos(
  db: Pick<Database, 'photos'>,
  build: Pick<Build, 'id' | 'survey'>,
): Promise<{ photos: Map<string, Uint8Array>; missing: string[] }> {
  const photos = new Map<string, Uint8Array>();
  const missing: string[] = [];
  for (const { id } of build.survey.photos) {
    const blob = await readPhoto(db, build.id, id);
    if (blob) photos.set(id, new Uint8Array(await blob.arrayBuffer()));
    else missing.push(id);
  }
  return { photos, missing };
}

export async function writePhotos(
  db: Pick<Database, 'photos'>,
  build: Pick<Build, 'id' | 'survey'>,
  photos: ReadonlyMap<string, Uint8Array>,
): Promise<void> {
  for (const photo of build.survey.photos) {
    const bytes = photos.get(photo.id);
    if (bytes)
      await db.photos.setItem(photoKey(build.id, photo.id), new Blob([new Uint8Array(bytes)], { type: photo.type }));
  }
}

/** The build of a key of an earlier version: all before the last bar. */
const oldBuild = (key: string): string => key.slice(0, key.lastIndexOf('|'));

/** Forgets pictures that neither the build nor any of its undo steps names any more. */
export async function sweepPhotos(
  db: Pick<Database, 'photos'>,
  buildId: string,
  named: (photoId: string) => boolean,
): Promise<number> {
  const old = (await db.photos.keys()).filter((key) => !partsOf(key) && oldBuild(key) === buildId);
  const gone = [
    ...(await keysOf(db.photos, buildId)).filter((key) => !named(String(partsOf(key)![1]))),
    ...old.filter((key) => !named(key.slice(buildId.length + 1))),
  ];
  await Promise.all(gone.map((key) => db.photos.removeItem(key)));
  return gone.length;
}
