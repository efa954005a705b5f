/** A task of the guide. */
export interface Section {
  title: string;
  /** As Markdown, without its title. */
  text: string;
}

/** The sections of a guide in Markdown: each begins with a title of the second level. */
export function sectionsOf(markdown: string): Section[] {
  return markdown
    .split(/^## /m)
    .slice(1)
    .map((section) => {
      const end = section.indexOf('\n');
      return { title: section.slice(0, end).trim(), text: section.slice(end + 1).trim() };
    });
}

/** The sections that have all words of a search. */
export function found(sections: readonly Section[], search: string): Section[] {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  return sections.filter(({ title, text }) => {
    const whole = `${title} ${text}`.toLowerCase();
    return words.every((word) => whole.includes(word));
  });
}
