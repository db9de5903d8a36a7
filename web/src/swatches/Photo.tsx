import type { KeptSwatch } from '@cordelina/core';
import { ImagePlus } from 'lucide-react';
import { useRef, useState } from 'react';
import { deletePhoto, photoAddress, Refused, savePhoto, ServerAway } from '../sync/server.js';
import { useAppDispatch } from '../desk/state/index.js';
import { listed } from '../desk/state/listed.js';
import { meetSwatches, swatches } from '../desk/state/swatches.js';
import { Button } from '../ui/Button.js';
import { photoOf } from '../ui/photo.js';
import { NoPicture } from '../workers/picture-in.js';

/** The photo of a swatch: chosen, dropped, replaced, taken out. It goes to the server at once. */
export function Photo({ kept: { swatch, photoAt } }: { kept: KeptSwatch }) {
  const dispatch = useAppDispatch();
  const file = useRef<HTMLInputElement>(null);
  const [isBusy, setBusy] = useState(false);
  const said = async (work: () => Promise<string | null>) => {
    setBusy(true);
    try {
      // The swatch itself must be there before its photo is.
      await dispatch(meetSwatches());
      dispatch(listed.photographed({ kind: 'swatch', id: swatch.id, photoAt: await work() }));
      dispatch(swatches.told(null));
    } catch (error) {
      if (error instanceof ServerAway)
        dispatch(
          swatches.told('The server is away: a photo is kept there and nowhere else. Try again later.'),
        );
      else if (error instanceof NoPicture || error instanceof Refused) dispatch(swatches.told(error.message));
      else throw error;
    } finally {
      setBusy(false);
    }
  };
  const put = (chosen: File | undefined) =>
    chosen && void said(async () => savePhoto('swatch', swatch.id, await photoOf(chosen)));
  return (
    <div
      className="grid gap-2"
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        put(e.dataTransfer.files[0]);
      }}
    >
      {photoAt && (
        <img
          src={photoAddress('swatch', swatch.id, photoAt)}
          alt={`Photo of ${swatch.name}`}
          className="max-h-56 w-full border border-rule bg-wash object-contain"
        />
      )}
      <div className="flex gap-2">
        <Button disabled={isBusy} onClick={() => file.current?.click()}>
          <ImagePlus size={15} aria-hidden /> {photoAt ? 'Another photo' : 'Add a photo'}
        </Button>
        {photoAt && (
          <Button
            tone="quiet"
            disabled={isBusy}
            onClick={() => void said(() => deletePhoto('swatch', swatch.id).then(() => null))}
          >
            Take it out
          </Button>
        )}
      </div>
      <input
        ref={file}
        type="file"
        accept="image/jpeg,image/png,image/webp"
        aria-label="Photo of the swatch"
        className="hidden"
        onChange={(e) => {
          put(e.target.files?.[0]);
          e.target.value = '';
        }}
      />
    </div>
  );
}
