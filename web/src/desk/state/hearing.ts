import { THE_STUDIO, type Happening } from '@cordelina/core';
import type { Told } from '../../sync/events.js';
import { hasNews, outbox } from '../../sync/outbox.js';
import { pull, sendAll } from '../../sync/post.js';
import type { AppDispatch, RootState } from './index.js';
import { meetStudio } from './studio.js';
import { heardOfListed, isListed, LISTED_KINDS, meet } from './listed.js';
import { workroom } from './workroom.js';

/** What the page does about what the server tells. */

type Thunk = (dispatch: AppDispatch, getState: () => RootState) => void;

export const hear =
  (told: Told): Thunk =>
  (dispatch, getState) => {
    if (told.kind === 'connected') {
      void dispatch(sendAll());
      if (!getState().outbox[THE_STUDIO]) void dispatch(meetStudio());
      dispatch(workroom.outdated());
      // A book that nobody has looked at yet is asked for when someone does.
      for (const kind of LISTED_KINDS)
        if (getState().listed[kind].state !== 'loading') void dispatch(meet(kind));
      return;
    }
    if (told.of === 'design')
      dispatch(told.kind === 'taken-out' ? workroom.gone(told.id) : workroom.stale(told.id));
    const isOpen = getState().outbox[told.id] !== undefined;
    if (isListed(told.of)) dispatch(heardOfListed(told.of, isOpen, told.kind));
    if (isOpen) dispatch(hearOf(told));
  };

/** Something happened to a document that is open here. */
const hearOf =
  ({ id, of, kind, version = 0 }: Happening): Thunk =>
  (dispatch, getState) => {
    const box = getState().outbox[id]!;
    if (kind === 'taken-out') {
      if (box.out) return;
      // What is listed is out for everyone, unless something was measured here that nobody has had.
      const isOver = isListed(of) && !hasNews(box);
      return void dispatch(
        isOver ? outbox.outElsewhere({ id, out: true }) : outbox.notSaved({ id, save: { kind: 'gone' } }),
      );
    }
    if (kind === 'put-back' && box.out && box.outThere) dispatch(outbox.outElsewhere({ id, out: false }));
    dispatch(outbox.heard({ id, version }));
    // While a save is under way its answer tells the rest.
    if (box.save.kind !== 'saving' && (version > box.base || kind === 'put-back')) void dispatch(pull(id));
  };
