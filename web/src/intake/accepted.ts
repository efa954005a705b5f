/** What the file chooser offers. */
export const ACCEPTED = [
  'application/pdf,image/*',
  '.pdf,.jpg,.jpeg,.png,.tif,.tiff,.heic,.heif,.webp,.bmp,.gif',
  '.docx,.doc,.odt,.rtf,.txt,.xlsx,.xls,.ods,.csv,.pptx,.odp',
].join(',');
