import { chartName, type Design, type Note } from '@cordelina/core';
import { format } from 'date-fns';
import { useState } from 'react';
import { Link } from 'react-router';
import { bench, chartIn } from '../desk/state/bench.js';
import { useAppDispatch, useAppSelector } from '../desk/state/index.js';
import { LISTED } from '../desk/state/listed.js';
import { changeNote } from '../desk/state/needles.js';
import { photoAddress } from '../sync/server.js';
import { Button } from '../ui/Button.js';
import { Check, Choose } from '../ui/Field.js';

type Shown = Note['state'] | 'all';

/** What knitters noticed, for whoever edits the pattern: open, answered, closed. */
export function NotesPane({ design }: { design: Design }) {
  const all = useAppSelector(LISTED.note.all).filter(({ document }) => document.design === design.id);
  const [shown, setShown] = useState<Shown>('open');
  const some = all.filter(({ document }) => shown === 'all' || document.state === shown);
  const count = (state: Note['state']) => all.filter(({ document }) => document.state === state).length;
  return (
    <div className="grid max-w-[920px] gap-3">
      <div className="max-w-[260px]">
        <Choose
          label="Show"
          value={shown}
          onChange={setShown}
          options={[
            ['open', `open (${count('open')})`],
            ['answered', `answered (${count('answered')})`],
            ['closed', `closed (${count('closed')})`],
            ['all', `all (${all.length})`],
          ]}
        />
      </div>
      {some.length === 0 && (
        <p className="text-slate">
          {all.length === 0
            ? 'Nothing was noticed yet. A knitter writes notes at her row; they come here, and to the row on the Bench.'
            : 'None.'}
        </p>
      )}
      <ul className="grid gap-3">
        {some.map(({ document, photoAt }) => (
          <OneNote key={document.id} note={document} photoAt={photoAt} design={design} />
        ))}
      </ul>
    </div>
  );
}

function OneNote({ note, photoAt, design }: { note: Note; photoAt: string | null; design: Design }) {
  const dispatch = useAppDispatch();
  const { id, text, by, at, where, count, state, answer, errata, chart, row, column } = note;
  const [draft, setDraft] = useState<string | null>(null);
  const own = chart === null ? undefined : design.charts.find((c) => c.id === chart);
  const place =
    own && row !== null && row < own.rows.length ? `${chartName(design, own)}, row ${row + 1}` : null;
  const say = () => {
    const said = (draft ?? answer).trim();
    dispatch(changeNote(id, { answer: said, state: said ? 'answered' : 'open' }));
    setDraft(null);
  };
  return (
    <li className="grid gap-2 border border-rule bg-chalk p-4" data-state={state}>
      <p className="text-[14px] text-slate">
        {where} · {by} · {format(at, 'd MMM yyyy HH:mm')} · <strong>{state}</strong>
      </p>
      {text && <p className="text-[16px] whitespace-pre-wrap">{text}</p>}
      {count && (
        <p>
          The count did not come out: the words say {count.said}, on the needle were {count.found}.
        </p>
      )}
      {photoAt && (
        <img
          src={photoAddress('note', id, photoAt)}
          alt={`Photo by ${by}, ${where}`}
          className="max-h-64 max-w-full object-contain"
        />
      )}
      <label className="grid gap-1 text-[13px] text-slate">
        Answer
        <textarea
          rows={2}
          maxLength={2000}
          value={draft ?? answer}
          onChange={(e) => setDraft(e.target.value)}
          className="w-full rounded-sm border border-slate/80 bg-white p-2 text-[14px] text-peat"
        />
      </label>
      <div className="flex flex-wrap items-center gap-2">
        {draft !== null && draft.trim() !== answer && (
          <Button tone="main" onClick={say}>
            Answer
          </Button>
        )}
        <Button
          onClick={() =>
            dispatch(
              changeNote(id, { state: state === 'closed' ? (answer ? 'answered' : 'open') : 'closed' }),
            )
          }
        >
          {state === 'closed' ? 'Open again' : 'Close'}
        </Button>
        {place && own && (
          <Link
            to={`/designs/${design.id}`}
            className="underline"
            onClick={() => {
              dispatch(bench.turnedTo({ chart: chartIn(design, own.id) }));
              dispatch(bench.moved({ cell: { row: row!, column: column ?? 0 } }));
            }}
          >
            See it on the Bench: {place}
          </Link>
        )}
        <span className="ml-auto">
          <Check
            label="A correction: print it on the sheet"
            checked={errata}
            onChange={(is) => dispatch(changeNote(id, { errata: is }))}
          />
        </span>
      </div>
    </li>
  );
}
