import { cutText, LIMITS } from '@cordelina/core';
import { useState } from 'react';
import { editHead } from '../state/editing.js';
import { useAppDispatch } from '../state/index.js';

/** The design's title; a click makes it editable. */
export function Title({ title }: { title: string }) {
  const dispatch = useAppDispatch();
  const [draft, setDraft] = useState<string | null>(null);
  const commit = () => {
    const said = draft?.trim();
    if (said && said !== title) dispatch(editHead('rename', { title: cutText(said, LIMITS.title) }));
    setDraft(null);
  };
  if (draft === null)
    return (
      <button
        type="button"
        title="Rename"
        onClick={() => setDraft(title)}
        className="max-w-[260px] truncate rounded-sm px-1 font-serif max-md:mr-auto max-md:min-w-0 max-md:flex-1 max-md:text-left text-[17px] hover:bg-wash"
      >
        {title}
      </button>
    );
  return (
    <input
      aria-label="Title of the design"
      autoFocus
      value={draft}
      maxLength={LIMITS.title}
      onChange={(e) => setDraft(e.target.value)}
      onBlur={commit}
      onKeyDown={(e) => {
        if (e.key === 'Enter') commit();
        if (e.key === 'Escape') setDraft(null);
      }}
      className="h-7 w-[260px] max-md:min-w-0 max-md:flex-1 rounded-sm border border-slate/80 bg-chalk px-1 font-serif text-[17px]"
    />
  );
}
