import { Camera } from 'lucide-react';
import { useEffect, useState } from 'react';
import { FileTrigger } from 'react-aria-components';
import { styled } from 'styled-components';
import { call } from '~/core/edits';
import type { Photo } from '~/core/survey/records';
import { plural } from '~/core/units/format';
import { useBuild } from '../build/context';
import { database } from '../storage/database';
import { readPhoto, storePhoto } from '../storage/photos';
import { Button } from '../ui/button';
import { Dialog, DialogActions } from '../ui/dialog';
import { Callout, Row, Small, Stack } from '../ui/text';
import { TextField } from '../ui/text-field';
import { color, shape, space, type } from '../ui/theme';

export const bytesWords = (bytes: number): string =>
  bytes >= 1e6 ? `${(bytes / 1e6).toFixed(1)} MB` : `${Math.max(1, Math.round(bytes / 1000))} kB`;

type Picture = { state: 'loading' } | { state: 'gone' } | { state: 'here'; url: string };

/** A kept picture as something an img can show; freed when it is no longer shown. */
function usePicture(buildId: string, photoId: string): Picture {
  const [picture, setPicture] = useState<Picture>({ state: 'loading' });
  useEffect(() => {
    let url: string | null = null;
    let live = true;
    readPhoto(database(), buildId, photoId).then(
      (blob) => {
        if (!live) return;
        if (!blob) return setPicture({ state: 'gone' });
        url = URL.createObjectURL(blob);
        setPicture({ state: 'here', url });
      },
      () => live && setPicture({ state: 'gone' }),
    );
    return () => {
      live = false;
      if (url) URL.revokeObjectURL(url);
    };
  }, [buildId, photoId]);
  return picture;
}

function Thumb({ photo, onOpen }: { photo: Photo; onOpen: () => void }) {
  const { build } = useBuild();
  const picture = usePicture(build.id, photo.id);
  return (
    <Card>
      <Button weight="quiet" onPress={onOpen} aria-label={`Open ${photo.caption || 'photograph'}`}>
        {picture.state === 'here' ? (
          <img src={picture.url} alt={photo.caption || 'photograph'} />
        ) : (
          <Blank>{picture.state === 'gone' ? 'not on this device' : '…'}</Blank>
        )}
      </Button>
      <span>{photo.caption || 'no caption'}</span>
      <Small>
        {photo.width} × {photo.height}, {bytesWords(photo.bytes)}
      </Small>
    </Card>
  );
}

function PhotoDialog({ photo, onClose }: { photo: Photo; onClose: () => void }) {
  const { build, edit } = useBuild();
  const [caption, setCaption] = useState(photo.caption);
  const picture = usePicture(build.id, photo.id);
  const keep = () => {
    if (caption !== photo.caption) edit(call('putPhoto', { photo: { ...photo, caption } }));
    onClose();
  };
  return (
    <Dialog title={photo.caption || 'Photograph'} isOpen onClose={keep} wide>
      {picture.state === 'here' ? (
        <Large src={picture.url} alt={photo.caption || 'photograph'} />
      ) : (
        <Callout $tone="fix">This photograph is not on this device. Import the build's file that carries it.</Callout>
      )}
      <TextField label="Caption" value={caption} onChange={setCaption} maxLength={200} />
      <DialogActions>
        <Button
          weight="quiet"
          onPress={() => {
            edit(call('removePhoto', { id: photo.id }));
            onClose();
          }}
        >
          Remove it
        </Button>
        <Button weight="act" onPress={keep}>
          Done
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** Photographs kept with a device, a connector or the car: taken here, scaled down, on this device only. */
export function Photos({ about, label }: { about: string; label: string }) {
  const { build, edit } = useBuild();
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [open, setOpen] = useState<string | null>(null);
  const mine = build.survey.photos.filter((photo) => photo.about === about);
  const bytes = mine.reduce((sum, photo) => sum + photo.bytes, 0);
  const opened = mine.find((photo) => photo.id === open);
  const take = async (files: FileList | null) => {
    if (!files) return;
    setBusy(true);
    setProblem(null);
    for (const file of files) {
      const kept = await storePhoto(database(), build.id, file, about);
      if (kept.ok) edit(call('putPhoto', { photo: kept.value }));
      else setProblem(kept.problem.sentence);
    }
    setBusy(false);
  };
  return (
    <Stack $gap={2}>
      <Row>
        <FileTrigger
          acceptedFileTypes={['image/jpeg', 'image/png', 'image/webp']}
          allowsMultiple
          onSelect={(files) => void take(files)}
        >
          <Button isDisabled={busy} aria-label={`Add a photograph of ${label}`}>
            <Camera size={18} aria-hidden /> Add a photograph
          </Button>
        </FileTrigger>
        {mine.length > 0 && (
          <Small>
            {plural(mine.length, 'photograph')}, {bytesWords(bytes)} on this device
          </Small>
        )}
        {busy && <Small role="status">Scaling down…</Small>}
      </Row>
      {problem && (
        <Callout $tone="stop" role="alert">
          {problem}
        </Callout>
      )}
      {mine.length > 0 && (
        <Shelf aria-label={`Photographs of ${label}`}>
          {mine.map((photo) => (
            <li key={photo.id}>
              <Thumb photo={photo} onOpen={() => setOpen(photo.id)} />
            </li>
          ))}
        </Shelf>
      )}
      {opened && <PhotoDialog key={opened.id} photo={opened} onClose={() => setOpen(null)} />}
    </Stack>
  );
}

const Shelf = styled.ul`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(136px, 1fr));
  gap: ${space[3]};
`;
const Card = styled.div`
  display: grid;
  gap: 2px;
  font-size: ${type.small};
  & > button {
    padding: 0;
    display: block;
    width: 100%;
  }
  & img {
    display: block;
    width: 100%;
    height: 98px;
    object-fit: cover;
    border: ${shape.hair} solid ${color.rule};
    border-radius: ${shape.radius};
  }
  & > span {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
`;
const Blank = styled.span`
  display: grid;
  place-items: center;
  height: 98px;
  border: ${shape.hair} dashed ${color.rule};
  border-radius: ${shape.radius};
  color: ${color.soft};
`;
const Large = styled.img`
  max-width: 100%;
  max-height: 60vh;
  object-fit: contain;
`;
