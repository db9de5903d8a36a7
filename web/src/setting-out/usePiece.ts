import {
  leastOf,
  PieceSchema,
  repeatsAcross,
  timesOf,
  type Chart,
  type Piece,
  type PiecePart,
  type Size,
  wayOf,
} from '@cordelina/core';
import { useCallback, useMemo } from 'react';
import { editHead, onBench } from '../store/editing.js';
import { useAppDispatch, useAppSelector } from '../store/index.js';
import { newId } from '../store/newId.js';

/** Short ids: parts and sizes are told apart within one piece only. */
export const shortId = (): string => newId().slice(0, 8);

/** Ways to change the piece of the design that is open; each is one edit and can be undone. */
export function usePieceActs(piece: Piece) {
  const dispatch = useAppDispatch();
  const set = useCallback(
    (label: string, patch: Partial<Piece>) => dispatch(editHead(label, { piece: { ...piece, ...patch } })),
    [dispatch, piece],
  );
  return useMemo(
    () => ({
      set,
      parts: (label: string, parts: readonly PiecePart[]) => {
        const { lead } = piece.length;
        const isThere = lead === null || parts.some((p) => p.id === lead);
        // What no part has any more is not kept for it.
        const ids = new Set(parts.map((p) => p.id));
        const sizes = piece.sizes.map((s): Size => {
          const kept = Object.entries(s.counts).filter(([id]) => ids.has(id));
          return kept.length === Object.keys(s.counts).length
            ? s
            : { ...s, counts: Object.fromEntries(kept) };
        });
        set(label, { parts, sizes, ...(!isThere && { length: { ...piece.length, lead: null } }) });
      },
      part: (label: string, id: string, patch: object) =>
        set(label, {
          parts: piece.parts.map((p) => (p.id === id ? { ...p, ...patch } : p)),
        }),
      size: (label: string, id: string, patch: Partial<Size>) =>
        set(label, { sizes: piece.sizes.map((s) => (s.id === id ? { ...s, ...patch } : s)) }),
      sizes: (label: string, sizes: readonly Size[]) => set(label, { sizes }),
    }),
    [set, piece],
  );
}
export type PieceActs = ReturnType<typeof usePieceActs>;

/** Begins a piece of all charts of the design: edges, ground, panels with gaps between; one that is a whole piece by itself. */
export function useBegin() {
  const dispatch = useAppDispatch();
  const design = useAppSelector(onBench)!.document;
  return useCallback(() => {
    const { hasEdges } = wayOf(design.charts[0]!);
    const ground = (pair: string | null) => ({ id: shortId(), kind: 'ground', stitches: 6, pair });
    const edge = () => ({ id: shortId(), kind: 'selvage', stitches: 1, style: 'garter' });
    const chartPart = (c: Chart) =>
      repeatsAcross(c) && c.part === 'piece'
        ? { id: shortId(), kind: 'filling', chart: c.id, repeats: timesOf(c), least: leastOf(c) }
        : { id: shortId(), kind: 'panel', chart: c.id };
    const gap = () => ({ id: shortId(), kind: 'ground', stitches: 2 });
    const charts = design.charts.flatMap((c, i) => [...(i ? [gap()] : []), chartPart(c)]);
    // A chart that is drawn as a whole piece has its own edges and ground.
    const isWhole = design.charts.length === 1 && design.charts[0]!.part === 'piece';
    const edges = hasEdges && !isWhole ? [edge] : [];
    const sides = isWhole ? [] : [() => ground('sides')];
    const parts = [
      ...[...edges, ...sides].map((make) => make()),
      ...charts,
      ...[...sides, ...edges].map((make) => make()),
    ];
    const piece = PieceSchema.parse({
      construction: design.charts[0]!.construction,
      firstRow: design.charts[0]!.firstRow,
      parts,
    });
    dispatch(editHead('set out', { piece }));
  }, [dispatch, design.charts]);
}
