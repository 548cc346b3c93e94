import { lazy, type ComponentType } from 'react';

const AGAIN_MS = 600;

/** Fetches a part of the application, once more where a connection broke off. */
export const fetched = <Part>(load: () => Promise<Part>): Promise<Part> =>
  load().catch(async () => {
    await new Promise((resolve) => setTimeout(resolve, AGAIN_MS));
    return load();
  });

/** A part of a page that is fetched when it is shown first. */
export const lazily = <Props extends object>(load: () => Promise<ComponentType<Props>>) =>
  lazy(async () => ({ default: await fetched(load) }));
