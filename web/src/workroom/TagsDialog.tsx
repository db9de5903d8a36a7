import { cutText, LIMITS, type Card } from '@cordelina/core';
import { X } from 'lucide-react';
import { useState } from 'react';
import { Button } from '../ui/Button.js';
import { Field, Input } from '../ui/Field.js';
import { SheetDialog } from '../ui/Sheet.js';

/** The words a design is sorted under. */
export function TagsDialog({
  card,
  known,
  onClose,
  onTags,
}: {
  card: Card;
  /** The tags other designs have. */
  known: readonly string[];
  onClose: () => void;
  onTags: (tags: string[]) => void;
}) {
  const [tags, setTags] = useState<readonly string[]>(card.summary?.tags ?? []);
  const [text, setText] = useState('');
  const isFull = tags.length >= LIMITS.tags;
  const add = (all: readonly string[], said: string): readonly string[] => {
    const tag = cutText(said.trim().replace(/\s+/g, ' '), LIMITS.tag);
    return !tag || all.includes(tag) || all.length >= LIMITS.tags ? all : [...all, tag];
  };
  // Several may be given at once, with commas between.
  const withTyped = () => text.split(',').reduce(add, tags);
  const others = known.filter((tag) => !tags.includes(tag));
  return (
    <SheetDialog open onOpenChange={onClose} title="Tags" note={`What ${card.title} is sorted under.`}>
      <form
        className="grid gap-4"
        onSubmit={(e) => {
          e.preventDefault();
          if (text.trim()) {
            setTags(withTyped());
            return setText('');
          }
          onTags([...tags]);
          onClose();
        }}
      >
        {tags.length > 0 && (
          <ul aria-label="Its tags" className="flex flex-wrap gap-1.5">
            {tags.map((tag) => (
              <li key={tag} className="flex items-center rounded-sm border border-slate/60 pl-2 text-[14px]">
                {tag}
                <button
                  type="button"
                  aria-label={`Take ${tag} away`}
                  className="grid h-7 w-7 place-items-center hover:bg-wash touch:h-11 touch:w-11"
                  onClick={() => setTags(tags.filter((t) => t !== tag))}
                >
                  <X size={14} aria-hidden />
                </button>
              </li>
            ))}
          </ul>
        )}
        <Field
          label="Another tag"
          hint={
            isFull
              ? `A design has at most ${LIMITS.tags} tags.`
              : 'Such as winter, men, in work. Enter adds it.'
          }
        >
          {(props) => (
            <Input
              {...props}
              autoFocus
              disabled={isFull}
              value={text}
              onChange={(e) => setText(e.target.value)}
            />
          )}
        </Field>
        {others.length > 0 && !isFull && (
          <div className="flex flex-wrap gap-1.5" role="group" aria-label="Tags of other designs">
            {others.slice(0, 24).map((tag) => (
              <Button key={tag} onClick={() => setTags(add(tags, tag))}>
                {tag}
              </Button>
            ))}
          </div>
        )}
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button
            tone="main"
            onClick={() => {
              onTags([...withTyped()]);
              onClose();
            }}
          >
            Keep these tags
          </Button>
        </div>
      </form>
    </SheetDialog>
  );
}
