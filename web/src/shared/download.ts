/** Hands a file of the server to the browser, to be kept. */
export function download(url: string, name: string) {
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
}
