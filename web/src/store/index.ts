import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { benchReducer } from './bench.js';
import { sync } from './sync.js';
import { workroomReducer } from './workroom.js';

export const store = configureStore({
  reducer: { bench: benchReducer, workroom: workroomReducer },
  // Documents are large and only ever replaced; walking them after every action would cost more than the edit.
  middleware: (defaults) =>
    defaults({ serializableCheck: false, immutableCheck: false }).prepend(sync.middleware),
});

export type RootState = ReturnType<typeof store.getState>;
export type AppDispatch = typeof store.dispatch;
export const useAppDispatch = useDispatch.withTypes<AppDispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();
