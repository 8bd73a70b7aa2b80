/** What the person holds or sits at, in one word: what is touched is a phone. */
export const thisDevice = (): string =>
  window.matchMedia("(pointer: coarse)").matches ? "this phone" : "this computer";
