import { createTheme, type MantineColorsTuple } from '@mantine/core';
import { t } from './words';

const spruce: MantineColorsTuple = [
  '#eef5f2',
  '#dce9e4',
  '#b5d2c9',
  '#8bbaad',
  '#68a595',
  '#4f9786',
  '#2f8274',
  '#1c5a52',
  '#174c45',
  '#103a35',
];

const amber: MantineColorsTuple = [
  '#fcf5e6',
  '#f6e8cc',
  '#ecd09b',
  '#e0b566',
  '#d49e3c',
  '#c28a25',
  '#a8741a',
  '#8f6013',
  '#7a4d0c',
  '#5e3a07',
];

const clay: MantineColorsTuple = [
  '#fbf0ed',
  '#f5ddd6',
  '#e9b8aa',
  '#dd927d',
  '#d0694f',
  '#be5239',
  '#b2482f',
  '#a6402b',
  '#96371f',
  '#702815',
];

/** Dorbin's look in Mantine's terms; the colours themselves are in tokens.css. */
export const theme = createTheme({
  fontFamily: "'Atkinson Hyperlegible Next Variable', system-ui, sans-serif",
  fontSizes: { xs: '12px', sm: '14px', md: '14px', lg: '16px', xl: '20px' },
  headings: { fontWeight: '650' },
  primaryColor: 'spruce',
  primaryShade: { light: 7, dark: 6 },
  colors: { spruce, amber, clay },
  defaultRadius: 6,
  respectReducedMotion: true,
  components: {
    Button: {
      defaultProps: { size: 'compact-md', variant: 'default' },
      styles: {
        root: { fontWeight: 500, fontSize: 14, height: 'auto', minHeight: 30, paddingInline: 11 },
        inner: { minHeight: 28 },
        label: { lineHeight: 1.3 },
      },
    },
    Drawer: {
      defaultProps: {
        overlayProps: { backgroundOpacity: 0.35 },
        closeButtonProps: { 'aria-label': t('app.close') },
      },
      styles: { title: { fontSize: 16, fontWeight: 650 } },
    },
    // The first item has the keyboard, and not an element beside the items that no reader can name.
    Menu: { defaultProps: { withInitialFocusPlaceholder: false } },
    Modal: {
      defaultProps: {
        centered: true,
        overlayProps: { backgroundOpacity: 0.35 },
        closeButtonProps: { 'aria-label': t('app.close') },
      },
      styles: { title: { fontSize: 16, fontWeight: 650 } },
    },
    // Who chooses what is chosen already means to keep it.
    Select: { defaultProps: { allowDeselect: false } },
    Notification: {
      styles: {
        root: { background: 'var(--sheet)', borderColor: 'var(--rule)' },
        description: { color: 'var(--ink)' },
      },
    },
    Input: {
      styles: {
        input: { background: 'var(--field)', borderColor: 'var(--rule)', minHeight: 34, height: 34 },
      },
    },
    SegmentedControl: {
      styles: {
        // Long words of another language go to a second row.
        root: {
          background: 'var(--paper)',
          border: '1px solid var(--rule)',
          flexWrap: 'wrap',
          maxWidth: '100%',
        },
        indicator: { background: 'var(--sheet)', border: '1px solid var(--rule)', boxShadow: 'none' },
        label: { fontSize: 13, fontWeight: 500, color: 'var(--ink)' },
      },
    },
    Slider: { styles: { track: { '--track-bg': 'var(--rule)' } } },
    Tooltip: { defaultProps: { openDelay: 500, withArrow: true, fz: 12 } },
  },
});
