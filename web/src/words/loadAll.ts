import { loadTexts } from '.';

// Tests have all texts from the beginning.
await loadTexts();
