import { Tab, Tabs } from '@mui/material';
import type { ReactNode } from 'react';

/** A row of tabs: which of several lists or panels is shown below it. */
export function TabRow<T extends string>({
  label,
  tabs,
  value,
  className,
  onChoose,
}: {
  label: string;
  tabs: readonly { value: T; text: ReactNode }[];
  value: T;
  className?: string;
  onChoose: (value: T) => void;
}): ReactNode {
  return (
    <Tabs
      aria-label={label}
      className={className}
      value={value}
      selectionFollowsFocus
      onChange={(_, next) => onChoose(next as T)}
    >
      {tabs.map((tab) => (
        <Tab key={tab.value} value={tab.value} label={tab.text} />
      ))}
    </Tabs>
  );
}
