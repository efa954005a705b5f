const ITEM = /^(all|odd|even|(first|last) +0*[1-9]\d*|(last|0*[1-9]\d*)( *[-–] *(last|0*[1-9]\d*))?)$/i;

/**
 * The first item of a typed range of pages, such as "1, 4-6, last", that cannot be meant, however many pages there
 * are. The server reads ranges by the same rules.
 */
export function wrongItem(text: string): string | undefined {
  const items = text.split(',').map((item) => item.trim());
  return items.find((item) => !ITEM.test(item));
}
