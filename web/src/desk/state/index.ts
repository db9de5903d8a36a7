import { configureStore, createListenerMiddleware } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { bench, benchReducer, type BenchState } from './bench.js';
import { browserReducer } from './browser.js';
import { outboxReducer } from '../../sync/outbox.js';
import { folderReducer } from './folder.js';
import { draftsReducer, keepDrafts } from './drafts.js';
import { habitsReducer, keepHabits } from './habits.js';
import { boxOf, type AnyOutbox, outbox } from '../../sync/outbox.js';
import { makePage, makePost, type Page } from '../../sync/post.js';
import { listedReducer } from './listed.js';
import { needlesReducer, type NeedlesState } from './needles.js';
import { swatchesReducer } from './swatches.js';
import { workroomReducer } from './workroom.js';
import { layGround, wear } from '../../ui/inks.js';

/** The design on the bench; what is at the needles; the studio; a swatch to which something was done that can be undone. */
const isInHand = ({ id, kind, done, undone }: AnyOutbox, state: object): boolean =>
  kind === 'studio' ||
  (state as { needles: NeedlesState }).needles.open.includes(id) ||
  (kind === 'swatch' && done.length + undone.length > 0) ||
  (state as { bench: BenchState }).bench.id === id;

/** Tells at the bench that what was saved elsewhere has been joined in. */
const telling = createListenerMiddleware();
telling.startListening({
  actionCreator: outbox.joined,
  effect: ({ payload: { id } }, api) => {
    type Told = { bench: BenchState; outbox: Record<string, AnyOutbox> };
    const [before, now] = [api.getOriginalState() as Told, api.getState() as Told];
    const [was, is] = [before, now].map((state) => boxOf(state.outbox, 'design', id));
    if (now.bench.id !== id || !was || !is || was.document === is.document) return;
    api.dispatch(
      bench.said({
        text:
          is.choices.length > was.choices.length
            ? 'Changed elsewhere too, in the same places: choose what is to stand.'
            : 'Joined with changes saved elsewhere.',
        tone: 'said',
      }),
    );
  },
});

/** A page's store; tests make several, each a tab of its own. */
export const makeStore = (page: Page = makePage()) =>
  configureStore({
    reducer: {
      bench: benchReducer,
      outbox: outboxReducer,
      workroom: workroomReducer,
      browser: browserReducer,
      drafts: draftsReducer,
      habits: habitsReducer,
      listed: listedReducer,
      needles: needlesReducer,
      swatches: swatchesReducer,
      folder: folderReducer,
    },
    // Documents are large and only ever replaced; walking them after every action would cost more than the edit.
    middleware: (defaults) =>
      defaults({
        serializableCheck: false,
        immutableCheck: false,
        thunk: { extraArgument: { ...page, isInHand } },
      }).prepend(makePost(page).middleware, telling.middleware),
  });

export const store = makeStore();

let kept = store.getState();
store.subscribe(() => {
  const before = kept;
  kept = store.getState();
  if (kept.drafts !== before.drafts) keepDrafts(kept.drafts);
  if (kept.habits !== before.habits) keepHabits(kept.habits);
  if (kept.habits.theme !== before.habits.theme) wear(kept.habits.theme);
  if (kept.habits.ground !== before.habits.ground) layGround(kept.habits.ground);
});

export type AppStore = typeof store;
export type RootState = ReturnType<typeof store.getState>;
export type AppDispatch = typeof store.dispatch;
export const useAppDispatch = useDispatch.withTypes<AppDispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();
