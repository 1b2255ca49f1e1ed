/** Keys as the keyboard of this computer names them: `Ctrl C`, or `⌘ C`. */
export function ofPlatform(keys: string): string {
  return /Mac|iPhone|iPad/.test(navigator.userAgent) ? keys.replaceAll('Ctrl', '⌘') : keys;
}

/** Where keys are typed, or belong to what is open: keys of a view pass it over. */
export const NOT_OF_THE_VIEW = 'input, textarea, select, [role="dialog"], [role="menu"]';
