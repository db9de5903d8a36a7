import { StrictMode, Suspense } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { BrowserRouter, Route, Routes } from 'react-router';
import { CommandDesk } from './desk/commands/CommandDesk.js';
import { fetched } from './desk/head/fetched.js';
import { NewerPage } from './desk/head/NewerPage.js';
import { NotFound } from './desk/head/NotFound.js';
import { RoomBoundary } from './desk/head/RoomBoundary.js';
import { browser } from './desk/state/browser.js';
import { hear } from './desk/state/hearing.js';
import { store } from './desk/state/index.js';
import { listen } from './sync/events.js';
import { onKeeping } from './sync/keeping.js';
import { carryUnsaved, sendAll } from './sync/post.js';
import { meetStudio } from './desk/state/studio.js';
import './styles.css';
import { watchHands } from './ui/hands.js';
import { layColours, layGround, wear } from './ui/inks.js';
import { registerPage } from './workers/page.js';

/** Each room comes by itself, when it is first entered; the browser keeps them all. */
const Bench = fetched(async () => (await import('./bench/BenchRoom.js')).BenchRoom, '/designs/:id');
const Cloth = fetched(async () => (await import('./cloth/ClothRoom.js')).ClothRoom, '/designs/:id/cloth');
const DesignRoom = fetched(
  async () => (await import('./desk/head/DesignRoom.js')).DesignRoom,
  '/designs/:id/*',
);
const Folder = fetched(async () => (await import('./import/FolderRoom.js')).FolderRoom, '/import/folder');
const Import = fetched(async () => (await import('./import/ImportRoom.js')).ImportRoom, '/import');
const Knit = fetched(async () => (await import('./needles/KnitPage.js')).KnitPage, '/knit/:id');
const Machine = fetched(
  async () => (await import('./machine/MachineRoom.js')).MachineRoom,
  '/designs/:id/machine',
);
const Needles = fetched(
  async () => (await import('./needles/NeedlesRoom.js')).NeedlesRoom,
  '/designs/:id/needles',
);
const SettingOut = fetched(
  async () => (await import('./setting-out/SettingOutRoom.js')).SettingOutRoom,
  '/designs/:id/setting-out',
);
const Swatches = fetched(async () => (await import('./swatches/SwatchBook.js')).SwatchBook, '/swatches');
const Words = fetched(async () => (await import('./words/WordsRoom.js')).WordsRoom, '/designs/:id/words');
const Workroom = fetched(async () => (await import('./workroom/WorkroomPage.js')).WorkroomPage, '/');

const Rooms = () => (
  <RoomBoundary>
    <Suspense>
      <Routes>
        <Route index element={<Workroom />} />
        <Route path="import/folder" element={<Folder />} />
        <Route path="import" element={<Import />} />
        <Route path="swatches" element={<Swatches />} />
        <Route path="designs/:id" element={<DesignRoom />}>
          <Route index element={<Bench />} />
          <Route path="cloth" element={<Cloth />} />
          <Route path="words" element={<Words />} />
          <Route path="machine" element={<Machine />} />
          <Route path="needles" element={<Needles />} />
          <Route path="setting-out" element={<SettingOut />} />
          <Route path="*" element={<NotFound />} />
        </Route>
        <Route path="knit/:id" element={<Knit />} />
        <Route path="*" element={<NotFound />} />
      </Routes>
    </Suspense>
  </RoomBoundary>
);

layColours(document.documentElement);
watchHands();
wear(store.getState().habits.theme);
layGround(store.getState().habits.ground);
onKeeping((keeping) => store.dispatch(browser.keeps(keeping)));
registerPage(() => store.dispatch(browser.newerPage()));
listen(
  (told) => store.dispatch(hear(told)),
  // The browser itself tells when the network is back.
  () => store.dispatch(hear({ kind: 'connected' })),
);
void store.dispatch(sendAll());
addEventListener('pagehide', () => void store.dispatch(carryUnsaved()));
void store.dispatch(meetStudio());

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <Provider store={store}>
      <BrowserRouter>
        <Rooms />
        <CommandDesk />
      </BrowserRouter>
      <NewerPage />
    </Provider>
  </StrictMode>,
);
