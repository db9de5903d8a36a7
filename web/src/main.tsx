import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { createBrowserRouter, RouterProvider } from 'react-router';
import { BenchRoom } from './bench/BenchRoom.js';
import { DesignRoom } from './shell/DesignRoom.js';
import { NotFound } from './shell/NotFound.js';
import { store } from './store/index.js';
import './styles.css';
import { WordsRoom } from './words/WordsRoom.js';
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

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <Provider store={store}>
      <RouterProvider router={router} />
    </Provider>
  </StrictMode>,
);
