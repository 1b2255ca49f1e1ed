import { OutlinedInput, type AutocompleteRenderInputParams } from '@mui/material';
import type { CSSProperties, ReactNode, Ref } from 'react';

interface Props {
  params: AutocompleteRenderInputParams;
  label: string;
  placeholder?: string;
  style?: CSSProperties;
  inputRef?: Ref<HTMLInputElement>;
}

/** The field of a list that is searched by typing. */
export function PickerInput({ params, label, placeholder, style, inputRef }: Props): ReactNode {
  const { input, htmlInput } = params.slotProps;
  return (
    <OutlinedInput
      id={params.id}
      size="small"
      fullWidth
      notched={false}
      disabled={params.disabled}
      placeholder={placeholder}
      inputRef={inputRef}
      {...input}
      slotProps={{ input: { ...htmlInput, 'aria-label': label, style } }}
    />
  );
}
