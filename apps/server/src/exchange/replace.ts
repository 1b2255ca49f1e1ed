import { readProjectText } from '@oquel/core';
import type { EditsDto } from '../edits/edit.dto.js';
import type { EditsService } from '../edits/edits.service.js';
import type { ReplaceDto } from './replace.dto.js';

/** Makes a project like a document, by one edit that can be undone. @throws BrokenDocument; ProblemError */
export function replaceProject(
  edits: EditsService,
  id: string,
  dto: ReplaceDto,
  text: string,
): Promise<EditsDto> {
  return edits.makeLike(id, dto, readProjectText(text).project, dto.label);
}
