/** Texts of the catalogue that come with the packets' view, by their rooms; vite.config.ts takes them from en.json. */
declare module 'virtual:texts/first' {
  const texts: Record<string, Record<string, string>>;
  export default texts;
}

/** The other texts of the catalogue, by their rooms. */
declare module 'virtual:texts/other' {
  const texts: Record<string, Record<string, string>>;
  export default texts;
}
