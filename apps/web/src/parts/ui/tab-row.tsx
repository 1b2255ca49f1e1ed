import './tab-row.css';
import { Tab, Tabs } from '@mui/material';
import { memo, useRef, type ReactNode } from 'react';

interface Props<T extends string> {
  label: string;
  tabs: readonly { value: T; text: ReactNode }[];
  value: T;
  className?: string;
  onChoose: (value: T) => void;
}

/** A row of tabs: which of several lists or panels is shown below it. */
export function TabRow<T extends string>(props: Props<T>): ReactNode {
  const latest = useRef(props.onChoose);
  latest.current = props.onChoose;
  const choose = useRef((value: string) => latest.current(value as T));
  return <Row {...props} onChoose={choose.current} />;
}

/** Each time it is drawn, the library measures it, which lays the whole page out: it is drawn only when it is another one. */
const Row = memo(
  function Row({ label, tabs, value, className, onChoose }: Props<string>): ReactNode {
    return (
      <Tabs
        aria-label={label}
        className={className}
        value={value}
        selectionFollowsFocus
        onChange={(_, next) => onChoose(next as string)}
      >
        {tabs.map((tab) => (
          <Tab key={tab.value} value={tab.value} label={tab.text} />
        ))}
      </Tabs>
    );
  },
  (a, b) =>
    a.label === b.label &&
    a.value === b.value &&
    a.className === b.className &&
    a.tabs.length === b.tabs.length &&
    a.tabs.every((tab, i) => tab.value === b.tabs[i].value && tab.text === b.tabs[i].text),
);
