import { format } from 'date-fns';
import { useAppSelector } from '../store/index.js';

/** Says whether what was done is safe, and where. */
export function SaveState() {
  const save = useAppSelector((s) => s.bench.save);
  const count = useAppSelector((s) => s.bench.unsaved.length);
  const text = {
    saved: () => `saved ${save.kind === 'saved' ? format(new Date(save.at), 'HH:mm') : ''}`,
    waiting: () => 'saving …',
    saving: () => 'saving …',
    away: () => `kept in this browser (${count} ${count === 1 ? 'edit' : 'edits'}); the server is away`,
    refused: () => `not saved: ${save.kind === 'refused' ? save.message : ''}`,
    conflict: () => 'two versions',
  }[save.kind]();
  const bad = save.kind === 'refused' || save.kind === 'conflict';
  return (
    <span
      role="status"
      data-save={save.kind}
      className={`text-[13px] whitespace-nowrap ${bad ? 'text-madder' : 'text-slate'}`}
    >
      {text}
    </span>
  );
}
