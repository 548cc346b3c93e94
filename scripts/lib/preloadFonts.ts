import type { Plugin } from 'vite';

/** The Latin part of both families is needed by the first paint of every view. */
const FIRST_PAINT = /-latin-wght-normal-.*\.woff2$/;

/** Adds preload links for the fonts of the first paint, whatever hash the build gives them. */
export function preloadFonts(): Plugin {
  return {
    name: 'preload-fonts',
    transformIndexHtml: {
      order: 'post',
      handler: (_html, { bundle }) =>
        Object.keys(bundle ?? {})
          .filter((file) => FIRST_PAINT.test(file))
          .map((file) => ({
            tag: 'link',
            injectTo: 'head-prepend',
            attrs: {
              rel: 'preload',
              href: `/${file}`,
              as: 'font',
              type: 'font/woff2',
              crossorigin: true,
            },
          })),
    },
  };
}
