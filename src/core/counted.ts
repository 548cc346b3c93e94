/** `1 date`, `3 dates`, `2 people`: so many of something. */
export const counted = (count: number, one: string, many = `${one}s`): string =>
  `${count} ${count === 1 ? one : many}`;
