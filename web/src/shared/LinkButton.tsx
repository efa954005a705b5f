import { Anchor, type AnchorProps } from '@mantine/core';
import type { ComponentProps } from 'react';

type Props = AnchorProps & Omit<ComponentProps<'button'>, keyof AnchorProps>;

/** A button that looks like a link, for an act within a text or a row. */
export function LinkButton(props: Props) {
  return <Anchor component="button" type="button" fw={600} c="var(--spruce-text)" {...props} />;
}
