import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { forceLinting, linter, lintKeymap, type Diagnostic } from '@codemirror/lint';
import { EditorState } from '@codemirror/state';
import { EditorView, keymap, lineNumbers, placeholder } from '@codemirror/view';
import { useEffect, useImperativeHandle, useRef, type Ref } from 'react';
import { SEEN } from './inks.js';

/** Something to be told at a place of the text. */
export interface Told {
  from: number;
  to: number;
  message: string;
  level: 'error' | 'caution' | 'note';
}

/** What may be asked of an editor from outside. */
export interface WordsEditorHandle {
  /** Selects a stretch of the text, brings it into view, and takes the keys. */
  show: (from: number, to: number) => void;
}

const SEVERITY = { error: 'error', caution: 'warning', note: 'info' } as const;

const LOOK = EditorView.theme({
  '&': { height: '100%', backgroundColor: SEEN.chalk, color: SEEN.peat, fontSize: '13.5px' },
  '&.cm-focused': { outline: 'none' },
  '.cm-content': { fontFamily: 'var(--font-mono)', lineHeight: '1.6', padding: '10px 0' },
  '.cm-gutters': { backgroundColor: SEEN.chalk, color: SEEN.slate, border: 'none', paddingLeft: '4px' },
  '.cm-line': { padding: '0 10px 0 6px' },
  '.cm-placeholder': { color: SEEN.slate },
  '.cm-lintRange-error': { backgroundImage: 'none', borderBottom: `2px solid ${SEEN.madder}` },
  '.cm-lintRange-warning': { backgroundImage: 'none', borderBottom: `2px dashed ${SEEN.weld}` },
  '.cm-lintRange-info': { backgroundImage: 'none', borderBottom: `1px dotted ${SEEN.slate}` },
  '.cm-tooltip': { border: `1px solid ${SEEN.slate}`, backgroundColor: SEEN.fleece, borderRadius: '2px' },
  '.cm-diagnostic': { fontFamily: 'var(--font-sans)', fontSize: '13.5px', maxWidth: '420px', border: 'none' },
});

/** An editor for written rows: what is told of a place is marked under its very words. */
export function WordsEditor({
  value,
  onChange,
  told,
  label,
  hint,
  ref,
}: {
  value: string;
  onChange: (text: string) => void;
  told: readonly Told[];
  label: string;
  hint: string;
  ref?: Ref<WordsEditorHandle>;
}) {
  const place = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView>(null);
  const latest = useRef({ told, onChange });
  useEffect(() => {
    latest.current = { told, onChange };
    if (view.current) forceLinting(view.current);
  }, [told, onChange]);
  const first = useRef(value);
  useEffect(() => {
    const editor = new EditorView({
      parent: place.current!,
      state: EditorState.create({
        doc: first.current,
        extensions: [
          lineNumbers(),
          history(),
          keymap.of([...defaultKeymap, ...historyKeymap, ...lintKeymap]),
          EditorView.lineWrapping,
          EditorView.contentAttributes.of({ 'aria-label': label, spellcheck: 'false' }),
          placeholder(hint),
          linter(({ state }) => diagnostics(latest.current.told, state.doc.length), {
            delay: 50,
            needsRefresh: () => true,
          }),
          EditorView.updateListener.of((update) => {
            if (update.docChanged) latest.current.onChange(update.state.doc.toString());
          }),
          LOOK,
        ],
      }),
    });
    view.current = editor;
    editor.focus();
    return () => editor.destroy();
  }, [label, hint]);
  // A text that comes from elsewhere, as from a file, takes the place of what is there.
  useEffect(() => {
    const editor = view.current;
    if (!editor || editor.state.doc.toString() === value) return;
    editor.dispatch({ changes: { from: 0, to: editor.state.doc.length, insert: value } });
  }, [value]);
  useImperativeHandle(ref, () => ({
    show: (from, to) => {
      const editor = view.current;
      if (!editor) return;
      const most = editor.state.doc.length;
      const selection = { anchor: Math.min(from, most), head: Math.min(to, most) };
      editor.dispatch({ selection, effects: EditorView.scrollIntoView(selection.anchor, { y: 'center' }) });
      editor.focus();
    },
  }));
  return (
    <div
      ref={place}
      className="relative h-full min-h-0 overflow-hidden after:pointer-events-none after:absolute after:inset-0 after:hidden after:border-2 after:border-woad has-[.cm-focused]:after:block"
    />
  );
}

const diagnostics = (told: readonly Told[], length: number): Diagnostic[] =>
  told
    .filter(({ from, to }) => from < to && to <= length)
    .map(({ from, to, message, level }) => ({ from, to, message, severity: SEVERITY[level] }));
