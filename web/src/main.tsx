import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { createBrowserRouter, Outlet, RouterProvider } from 'react-router';
import { CommandDesk } from './desk/commands/CommandDesk.js';
import { NewerPage } from './desk/head/NewerPage.js';
import { NotFound } from './desk/head/NotFound.js';
import { RoomAway, RoomBoundary } from './desk/head/RoomBoundary.js';
import { browser } from './desk/state/browser.js';
import { hear } from './desk/state/hearing.js';
import { store } from './desk/state/index.js';
import { listen } from './sync/events.js';
import { onKeeping } from './sync/keeping.js';
import { sendAll } from './sync/post.js';
import { meetStudio } from './desk/state/studio.js';
import './styles.css';
import { layColours } from './ui/inks.js';
import { registerPage } from './workers/page.js';

/** Each room comes by itself, when it is first entered; the browser keeps them all. */
const rooms = [
  {
    path: '/',
    lazy: async () => ({ Component: (await import('./workroom/WorkroomPage.js')).WorkroomPage }),
  },
  {
    path: '/import/folder',
    lazy: async () => ({ Component: (await import('./import/FolderRoom.js')).FolderRoom }),
  },
  {
    path: '/import',
    lazy: async () => ({ Component: (await import('./import/ImportRoom.js')).ImportRoom }),
  },
  {
    path: '/swatches',
    lazy: async () => ({ Component: (await import('./swatches/SwatchBook.js')).SwatchBook }),
  },
  {
    path: '/designs/:id',
    lazy: async () => ({ Component: (await import('./desk/head/DesignRoom.js')).DesignRoom }),
    children: [
      { index: true, lazy: async () => ({ Component: (await import('./bench/BenchRoom.js')).BenchRoom }) },
      {
        path: 'cloth',
        lazy: async () => ({ Component: (await import('./cloth/ClothRoom.js')).ClothRoom }),
      },
      {
        path: 'words',
        lazy: async () => ({ Component: (await import('./words/WordsRoom.js')).WordsRoom }),
      },
      {
        path: 'machine',
        lazy: async () => ({ Component: (await import('./machine/MachineRoom.js')).MachineRoom }),
      },
      {
        path: 'needles',
        lazy: async () => ({ Component: (await import('./needles/NeedlesRoom.js')).NeedlesRoom }),
      },
      {
        path: 'setting-out',
        lazy: async () => ({
          Component: (await import('./setting-out/SettingOutRoom.js')).SettingOutRoom,
        }),
      },
    ],
  },
  {
    path: '/knit/:id',
    lazy: async () => ({ Component: (await import('./needles/KnitPage.js')).KnitPage }),
  },
  { path: '*', element: <NotFound /> },
].map((route) => ({ ...route, HydrateFallback: () => null }));

const router = createBrowserRouter([
  {
    element: (
      <>
        <RoomBoundary>
          <Outlet />
        </RoomBoundary>
        <CommandDesk />
      </>
    ),
    // A room that does not come at all: its script is not to be had.
    errorElement: <RoomAway />,
    HydrateFallback: () => null,
    children: rooms,
  },
]);

layColours(document.documentElement);
onKeeping((keeping) => store.dispatch(browser.keeps(keeping)));
registerPage(() => store.dispatch(browser.newerPage()));
listen(
  (told) => store.dispatch(hear(told)),
  // The browser itself tells when the network is back.
  () => store.dispatch(hear({ kind: 'connected' })),
);
void store.dispatch(sendAll());
void store.dispatch(meetStudio());

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <Provider store={store}>
      <RouterProvider router={router} />
      <NewerPage />
    </Provider>
  </StrictMode>,
);
