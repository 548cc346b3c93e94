import { randomBytes } from 'node:crypto';
import type { Middleware } from 'koa';
import helmet from 'koa-helmet';

/** The nonce that this response's style elements must carry. */
export const styleNonce = (state: unknown): string => (state as { styleNonce: string }).styleNonce;

/** A strict content security policy and its companions on every response. */
export const securityHeaders: Middleware = async (ctx, next) => {
  const nonce = randomBytes(16).toString('base64');
  (ctx.state as { styleNonce: string }).styleNonce = nonce;
  await helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'none'"],
        scriptSrc: ["'self'"],
        workerSrc: ["'self'"],
        styleSrc: ["'self'", `'nonce-${nonce}'`],
        fontSrc: ["'self'"],
        imgSrc: ["'self'", 'data:'],
        connectSrc: ["'self'"],
        frameSrc: ["'self'"],
        frameAncestors: ["'self'"],
        formAction: ["'self'"],
        baseUri: ["'none'"],
      },
    },
    // Served over plain HTTP on loopback; a proxy with TLS adds its own.
    strictTransportSecurity: false,
    crossOriginEmbedderPolicy: false,
  })(ctx, next);
};
