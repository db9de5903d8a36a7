import { NoteSchema, type InDesign, type Knitting, numberTyped } from '@cordelina/core';
import { ImagePlus } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { useAppDispatch } from '../desk/state/index.js';
import { needles, writeNote } from '../desk/state/needles.js';
import { newId } from '../sync/newId.js';
import { Button } from '../ui/Button.js';
import { Check, Field, Input } from '../ui/Field.js';
import { photoOf } from '../ui/photo.js';
import { NoPicture } from '../workers/picture-in.js';
import { SheetDialog } from '../ui/Sheet.js';

/** Something noticed in a row: a line, a photo, a count that did not come out. It goes to the designer. */
export function NoteSheet({
  place,
  said,
  knitting,
  onClose,
}: {
  place: InDesign;
  /** Stitches the row leaves by its words; null where nothing is counted. */
  said: number | null;
  knitting: Knitting;
  onClose: () => void;
}) {
  const dispatch = useAppDispatch();
  const file = useRef<HTMLInputElement>(null);
  const [text, setText] = useState('');
  const [isCount, setCount] = useState(false);
  const [found, setFound] = useState('');
  const [photo, setPhoto] = useState<{ blob: Blob; url: string } | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const url = photo?.url;
  useEffect(() => () => void (url && URL.revokeObjectURL(url)), [url]);
  const choose = async (chosen: File | undefined) => {
    if (!chosen) return;
    try {
      const blob = await photoOf(chosen);
      setPhoto({ blob, url: URL.createObjectURL(blob) });
      setProblem(null);
    } catch (error) {
      if (!(error instanceof NoPicture)) throw error;
      setProblem(error.message);
    }
  };
  const save = async () => {
    const counted = isCount ? numberTyped(found) : null;
    if (isCount && (!/^\d{1,6}$/.test(found.trim()) || counted === null))
      return setProblem('How many stitches are on the needle? A number such as 41.');
    if (!text.trim() && !isCount && !photo) return setProblem('Write a line, count, or add a photo first.');
    setBusy(true);
    const note = NoteSchema.parse({
      ...place,
      id: newId(),
      design: knitting.design,
      knitting: knitting.id,
      by: knitting.knitter,
      at: Date.now(),
      text: text.trim(),
      count: counted === null || said === null ? null : { said, found: counted },
    });
    const isWhole = await dispatch(writeNote(note, photo?.blob ?? null));
    if (isWhole) dispatch(needles.told('Written down; the designer sees it at its row.'));
    onClose();
  };
  return (
    <SheetDialog
      open
      onOpenChange={(open) => !open && onClose()}
      title="What do you notice?"
      note={`${place.where}.`}
    >
      <div className="grid gap-3">
        <Field label="In a line">
          {(props) => (
            <textarea
              {...props}
              rows={3}
              maxLength={2000}
              value={text}
              onChange={(e) => setText(e.target.value)}
              className="w-full rounded-sm border border-slate/80 bg-chalk p-2"
            />
          )}
        </Field>
        {said !== null && (
          <Check
            label={`The count did not come out (the words say ${said})`}
            checked={isCount}
            onChange={setCount}
          />
        )}
        {isCount && (
          <Field label="On the needle there are">
            {(props) => (
              <Input
                {...props}
                inputMode="numeric"
                value={found}
                onChange={(e) => setFound(e.target.value)}
              />
            )}
          </Field>
        )}
        {photo && (
          <img src={photo.url} alt="The photo to be sent" className="max-h-40 w-full object-contain" />
        )}
        {problem && (
          <p role="alert" className="text-madder">
            {problem}
          </p>
        )}
        <div className="flex flex-wrap gap-2">
          <Button className="min-h-11" onClick={() => file.current?.click()}>
            <ImagePlus size={16} aria-hidden /> {photo ? 'Another photo' : 'Add a photo'}
          </Button>
          <Button tone="main" className="ml-auto min-h-11" disabled={busy} onClick={() => void save()}>
            Write it down
          </Button>
        </div>
        <input
          ref={file}
          type="file"
          accept="image/*"
          className="hidden"
          aria-label="Photo"
          onChange={(e) => void choose(e.target.files?.[0])}
        />
      </div>
    </SheetDialog>
  );
}
