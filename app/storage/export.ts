import { packBundle } from '~/core/formats/bundle';
import type { Build } from '~/core/build/schema';
import { database } from './database';
import { download, fileName } from './files';
import { readPhotos } from './photos';

/** Hands the build over as one file: JSON, or a zip archive when there are photographs. Tells which ones were gone. */
export async function exportBuild(build: Build): Promise<string | null> {
  if (build.survey.photos.length === 0) {
    download(fileName(build.name, 'gonyx.json'), 'application/json', JSON.stringify(build, null, 1));
    return null;
  }
  try {
    const { photos, missing } = await readPhotos(database(), build);
    download(fileName(build.name, 'gonyx.zip'), 'application/zip', new Uint8Array(packBundle(build, photos)));
    return missing.length === 0
      ? null
      : `${missing.length} of ${build.survey.photos.length} photographs are no longer on this device; the file has the rest.`;
  } catch {
    download(fileName(build.name, 'gonyx.json'), 'application/json', JSON.stringify(build, null, 1));
    return 'The photographs could not be read: the file holds the build without them.';
  }
}
