import { mergeManifest, MergeRefused, readManifestText } from '@oquel/core';
import type { EditsDto } from '../edits/edit.dto.js';
import type { EditsService } from '../edits/edits.service.js';
import { ProblemError } from '../http/problem.js';
import type { DeclarationsDto } from './declarations.dto.js';

/**
 * Brings a project to what a manifest of the game says, by one edit that can be undone; where nothing differs nothing is
 * stored. @throws BrokenDocument; ProblemError
 */
export async function mergeDeclarations(
  edits: EditsService,
  id: string,
  dto: DeclarationsDto,
  text: string,
): Promise<EditsDto> {
  const { manifest } = readManifestText(text, dto.origin);
  try {
    return await edits.makeLike(id, dto, (project) => mergeManifest(project, manifest).project, dto.label);
  } catch (error) {
    if (error instanceof ProblemError && error.type === 'no-difference') {
      return edits.since(id, dto.have ?? dto.base, dto.author ?? null);
    }
    if (error instanceof MergeRefused) {
      throw new ProblemError(409, 'other-origin', 'Two origins declare the same', error.reasons.join('; '));
    }
    throw error;
  }
}
