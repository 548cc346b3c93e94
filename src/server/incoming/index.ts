/** Mail that comes back: answers counted, doubtful ones put aside, bounces and automatic ones told. */
export { startListener, type MailListener } from './listener.ts';
export { MOST_MAIL_BYTES } from './limits.ts';
export { readMail, receiveMail } from './receive.ts';
export { incomingApi } from './routes.ts';
