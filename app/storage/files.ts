/** Hands a file to the person. The browser keeps nothing of it. */
export function download(name: string, type: string, content: BlobPart): void {
  const url = URL.createObjectURL(new Blob([content], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  document.body.append(link);
  link.click();
  link.remove();
  // The browser has taken the file over by the next turn of the event loop.
  setTimeout(() => URL.revokeObjectURL(url), 1000);
}

/** A file name any system takes. */
export const fileName = (title: string, ending: string): string =>
  `${
    title
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '')
      .slice(0, 60) || 'build'
  }.${ending}`;
