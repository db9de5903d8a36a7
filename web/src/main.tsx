import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { createBrowserRouter, RouterProvider } from 'react-router';
import { BenchRoom } from './bench/BenchRoom.js';
import { DesignRoom } from './shell/DesignRoom.js';
import { NewerPage } from './shell/NewerPage.js';
import { NotFound } from './shell/NotFound.js';
import { browser } from './store/browser.js';
import { listen } from './store/events.js';
import { store } from './store/index.js';
import { onKeeping } from './store/keeping.js';
import { sendAll } from './store/post.js';
import './styles.css';
import { WordsRoom } from './words/WordsRoom.js';
import { registerPage } from './workers/page.js';
import { WorkroomPage } from './workroom/WorkroomPage.js';

const router = createBrowserRouter([
  { path: '/', element: <WorkroomPage /> },
  {
    path: '/designs/:id',
    element: <DesignRoom />,
    children: [
      { index: true, element: <BenchRoom /> },
      { path: 'words', element: <WordsRoom /> },
    ],
  },
  { path: '*', element: <NotFound /> },
]);

onKeeping((keeping) => store.dispatch(browser.keeps(keeping)));
registerPage(() => store.dispatch(browser.newerPage()));
listen(store);
void store.dispatch(sendAll());

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <Provider store={store}>
      <RouterProvider router={router} />
      <NewerPage />
    </Provider>
  </StrictMode>,
);
