/** Keys as the keyboard of this computer names them: `Ctrl C`, or `⌘ C`. */
export function ofPlatform(keys: string): string {
  return /Mac|iPhone|iPad/.test(navigator.userAgent) ? keys.replaceAll('Ctrl', '⌘') : keys;
}
