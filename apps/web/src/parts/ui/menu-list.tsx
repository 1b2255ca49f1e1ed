import { Divider, Menu, MenuItem } from '@mui/material';
import type { ReactNode } from 'react';
import type { Choice, Choices } from './choices.js';
import { ofPlatform } from './keys.js';

interface Props extends Choices {
  left: number;
  top: number;
  onDo: (choice: Choice) => void;
  onClose: () => void;
}

/** The menu of a right click, at its place. */
export function MenuList({ of, groups, left, top, onDo, onClose }: Props): ReactNode {
  return (
    <Menu
      open
      onClose={onClose}
      anchorReference="anchorPosition"
      anchorPosition={{ left, top }}
      transitionDuration={0}
      slotProps={{ list: { dense: true, 'aria-label': of }, paper: { className: 'contextmenu' } }}
      onContextMenu={(e) => {
        e.preventDefault();
        // What the menu was opened on is around it here, though not on the screen.
        e.stopPropagation();
        onClose();
      }}
    >
      {groups
        .filter((group) => group.length > 0)
        .flatMap((group, g) => [
          ...(g > 0 ? [<Divider key={`rule ${g}`} />] : []),
          ...group.map((choice) => (
            <MenuItem key={choice.label} disabled={!choice.onDo} onClick={() => onDo(choice)}>
              <span className="grow">{choice.label}</span>
              {choice.keys && <kbd>{ofPlatform(choice.keys)}</kbd>}
            </MenuItem>
          )),
        ])}
    </Menu>
  );
}
