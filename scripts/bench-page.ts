/** What the first page weighs against an empty one of the same libraries. */
import type { Browser } from '@playwright/test';
import { mkdirSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'vite';

const web = fileURLToPath(new URL('../web/', import.meta.url));

/** A page that shows nothing, with the libraries that the first page is made with. */
const EMPTY = `
import { configureStore, createListenerMiddleware, createSlice } from '@reduxjs/toolkit';
import { format } from 'date-fns';
import { openDB } from 'idb';
import { createElement, StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { useForm } from 'react-hook-form';
import { createBrowserRouter, RouterProvider } from 'react-router';
import { Dialog, DropdownMenu, Tooltip } from 'radix-ui';
import { z } from 'zod';
const slice = createSlice({ name: 'empty', initialState: z.object({ at: z.string() }).parse({ at: format(new Date(), 'p') }), reducers: {} });
const listener = createListenerMiddleware();
const store = configureStore({ reducer: slice.reducer, middleware: (all) => all().prepend(listener.middleware) });
void openDB('empty');
const Page = () => {
  useForm();
  return createElement(Tooltip.Provider, null, createElement(Dialog.Root), createElement(DropdownMenu.Root));
};
const router = createBrowserRouter([{ path: '*', element: createElement(Page) }]);
createRoot(document.body).render(
  createElement(StrictMode, null, createElement(Provider, { store, children: createElement(RouterProvider, { router }) })),
);
`;

async function emptyBytes(): Promise<number> {
  // Beside the page itself, so that the same libraries are found.
  const root = path.join(web, '.empty-page');
  mkdirSync(root, { recursive: true });
  try {
    writeFileSync(
      path.join(root, 'index.html'),
      '<!doctype html><script type="module" src="/main.js"></script>',
    );
    writeFileSync(path.join(root, 'main.js'), EMPTY);
    await build({
      root,
      configFile: false,
      logLevel: 'silent',
      build: { target: 'es2023', modulePreload: false },
    });
    const assets = path.join(root, 'dist', 'assets');
    return readdirSync(assets).reduce((sum, file) => sum + statSync(path.join(assets, file)).size, 0);
  } finally {
    rmSync(root, { recursive: true, force: true });
  }
}

/** Bytes of the scripts that the first page asks for until it stands still. */
async function firstBytes(browser: Browser, url: string): Promise<number> {
  const page = await browser.newPage({ serviceWorkers: 'block' });
  const sizes: Promise<number>[] = [];
  page.on('response', (answer) => {
    if (answer.request().resourceType() === 'script')
      // One that comes when the page stands still already is not of the first.
      sizes.push(
        answer.body().then(
          (body) => body.length,
          () => 0,
        ),
      );
  });
  await page.goto(url, { waitUntil: 'networkidle' });
  const bytes = (await Promise.all(sizes)).reduce((a, b) => a + b, 0);
  await page.close();
  return bytes;
}

export async function pageWeight(browser: Browser, url: string): Promise<void> {
  const [first, empty] = [await firstBytes(browser, url), await emptyBytes()];
  console.log(
    `first page ${(first / 1024).toFixed(0)} kB of scripts, an empty one of the same libraries ${(empty / 1024).toFixed(0)} kB`,
  );
  console.log(
    `first page / an empty page of the same libraries (at most 1.5): ${(first / empty).toFixed(2)}`,
  );
}
