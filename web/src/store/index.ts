import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { benchReducer } from './bench.js';
import { browserReducer } from './browser.js';
import { outboxReducer } from './outbox.js';
import { folderReducer } from './folder.js';
import { draftsReducer, keepDrafts } from './drafts.js';
import { habitsReducer, keepHabits } from './habits.js';
import { makePage, makePost, type Page } from './post.js';
import { keepStudio, studioReducer } from './studio.js';
import { keepUnsentSwatches, swatchesReducer } from './swatches.js';
import { workroomReducer } from './workroom.js';

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
      studio: studioReducer,
      swatches: swatchesReducer,
      folder: folderReducer,
    },
    // Documents are large and only ever replaced; walking them after every action would cost more than the edit.
    middleware: (defaults) =>
      defaults({
        serializableCheck: false,
        immutableCheck: false,
        thunk: { extraArgument: page },
      }).prepend(makePost(page).middleware),
  });

export const store = makeStore();

let kept = store.getState();
store.subscribe(() => {
  const before = kept;
  kept = store.getState();
  if (kept.drafts !== before.drafts) keepDrafts(kept.drafts);
  if (kept.habits !== before.habits) keepHabits(kept.habits);
  if (kept.studio !== before.studio) keepStudio(kept.studio);
  if (kept.swatches.unsent !== before.swatches.unsent) keepUnsentSwatches(kept.swatches);
});

export type AppStore = typeof store;
export type RootState = ReturnType<typeof store.getState>;
export type AppDispatch = typeof store.dispatch;
export const useAppDispatch = useDispatch.withTypes<AppDispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();
