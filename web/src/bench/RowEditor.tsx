import {
  autocompletion,
  completionStatus,
  type CompletionContext,
  type CompletionResult,
} from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { linter } from '@codemirror/lint';
import { EditorState, Prec } from '@codemirror/state';
import { EditorView, keymap } from '@codemirror/view';
import { type Completion, type RowRead } from '@cordelina/core';
import { useEffect, useId, useRef, useState } from 'react';
import { SEEN } from '../ui/inks.js';

const LOOK = EditorView.theme({
  '&': { backgroundColor: SEEN.chalk, color: SEEN.peat, fontSize: '12.5px' },
  '&.cm-focused': { outline: 'none' },
  '.cm-content': { fontFamily: 'var(--font-mono)', lineHeight: '1.35', padding: '2px 0' },
  '.cm-line': { padding: '0 4px' },
  '.cm-lintRange-error': { backgroundImage: 'none', borderBottom: `2px solid ${SEEN.madder}` },
  '.cm-tooltip': { border: `1px solid ${SEEN.slate}`, backgroundColor: SEEN.chalk, borderRadius: '2px' },
  '.cm-tooltip-autocomplete > ul': { fontFamily: 'var(--font-mono)', fontSize: '12.5px', maxHeight: '14em' },
  '.cm-tooltip-autocomplete > ul > li[aria-selected]': { backgroundColor: SEEN.wash, color: SEEN.peat },
  '.cm-completionDetail': { fontFamily: 'var(--font-sans)', fontStyle: 'normal', color: SEEN.slate },
});

/** A run that is typed out sooner than it is chosen. */
const PLAIN_RUN = /^[kp]\d*$/i;
const LONGEST_MEANING = 46;

/** What may be meant by the word before the cursor. */
function completed(context: CompletionContext, words: readonly Completion[]): CompletionResult | null {
  const typed = context.matchBefore(/[A-Za-z0-9*/][A-Za-z0-9*/+' -]*/);
  if (!context.explicit && (!typed || typed.text.length < 2 || PLAIN_RUN.test(typed.text))) return null;
  return {
    from: typed?.from ?? context.pos,
    options: words.map(({ word, meaning }) => ({
      label: word,
      detail: meaning.length > LONGEST_MEANING ? `${meaning.slice(0, LONGEST_MEANING)}…` : meaning,
    })),
    validFor: /^[A-Za-z0-9*/+' -]*$/,
  };
}

/**
 * The words of one row, being written in their place: what is wrong is marked under the very word and said below, and
 * a text of several rows that is pasted goes into the rows above.
 */
export default function RowEditor({
  initial,
  read,
  words,
  onRead,
  onDone,
  onRows,
}: {
  initial: string;
  /** What words make of the row. */
  read: (text: string) => RowRead | null;
  words: readonly Completion[];
  /** Told at each change how far the words come on the needle. */
  onRead: (read: RowRead) => void;
  /** The words when they are left; null when they are given up. */
  onDone: (text: string | null) => void;
  /** A text of several rows. */
  onRows: (text: string) => void;
}) {
  const place = useRef<HTMLDivElement>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const problemId = useId();
  const latest = useRef({ read, words, onRead, onDone, onRows });
  useEffect(() => {
    latest.current = { read, words, onRead, onDone, onRows };
  });
  const first = useRef(initial);
  useEffect(() => {
    let isDone = false;
    const finish = (text: string | null) => {
      if (isDone) return;
      isDone = true;
      latest.current.onDone(text);
    };
    const textOf = ({ state }: EditorView) => state.doc.toString();
    const look = (text: string) => {
      const made = latest.current.read(text);
      if (made) latest.current.onRead(made);
      setProblem(made?.problem?.message ?? null);
      return made;
    };
    const editor = new EditorView({
      parent: place.current!,
      state: EditorState.create({
        doc: first.current,
        selection: { anchor: 0, head: first.current.length },
        extensions: [
          Prec.high(
            keymap.of([
              {
                key: 'Enter',
                run: (view) => {
                  // What does not come out stays open, with what is wrong about it.
                  if (!look(textOf(view))?.problem) finish(textOf(view));
                  return true;
                },
              },
              {
                key: 'Escape',
                run: (view) => {
                  if (completionStatus(view.state)) return false;
                  finish(null);
                  return true;
                },
              },
            ]),
          ),
          history(),
          autocompletion({
            override: [(context) => completed(context, latest.current.words)],
            icons: false,
            selectOnOpen: false,
          }),
          keymap.of([...defaultKeymap, ...historyKeymap]),
          EditorView.lineWrapping,
          // One row is one line, however it comes in.
          EditorState.transactionFilter.of((tr) => (tr.newDoc.lines > 1 ? [] : tr)),
          EditorView.contentAttributes.of({
            'aria-label': 'Words of the row',
            'aria-describedby': problemId,
            spellcheck: 'false',
          }),
          EditorView.domEventHandlers({
            paste: (event) => {
              const text = event.clipboardData?.getData('text/plain') ?? '';
              const lines = text.split(/[\r\n]+/).filter((line) => line.trim());
              if (lines.length < 2) return false;
              event.preventDefault();
              isDone = true;
              latest.current.onRows(text);
              return true;
            },
            blur: (_event, view) => finish(textOf(view)),
          }),
          linter(
            ({ state }) => {
              const wrong = latest.current.read(state.doc.toString())?.problem;
              if (!wrong) return [];
              const length = state.doc.length;
              const { from, to } = wrong.at ?? { from: 0, to: length };
              const at = { from: Math.min(from, length), to: Math.min(Math.max(to, from + 1), length) };
              return at.from < at.to ? [{ ...at, message: wrong.message, severity: 'error' }] : [];
            },
            { delay: 120, tooltipFilter: () => [] },
          ),
          EditorView.updateListener.of((update) => {
            if (update.docChanged) look(update.state.doc.toString());
          }),
          LOOK,
        ],
      }),
    });
    look(first.current);
    editor.focus();
    return () => {
      isDone = true;
      editor.destroy();
    };
  }, [problemId]);
  return (
    <div className="min-w-0 flex-1 self-start border border-woad bg-chalk shadow-sheet">
      <div ref={place} />
      <p
        id={problemId}
        role="status"
        className="border-t border-rule px-1 py-0.5 text-[12.5px] leading-snug text-madder empty:hidden"
      >
        {problem}
      </p>
    </div>
  );
}
