import { shownFileUrl } from '../api/client';
import { t } from '../words';

const FRAME = 'printed-document';

/** Opens the browser's print dialog with a finished document, which is loaded into a frame that is not seen. */
export function print(exportId: string, onFailure: () => void) {
  document.getElementById(FRAME)?.remove();
  const frame = document.createElement('iframe');
  frame.id = FRAME;
  frame.title = t('export.theDocumentToBePrinted');
  frame.style.cssText = 'position: fixed; width: 0; height: 0; border: 0; visibility: hidden';
  frame.src = shownFileUrl(exportId);
  frame.addEventListener('load', () => {
    try {
      frame.contentWindow?.focus();
      frame.contentWindow?.print();
    } catch {
      onFailure();
    }
  });
  frame.addEventListener('error', onFailure);
  document.body.append(frame);
}
