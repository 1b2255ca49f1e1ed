import { ApiProperty } from '@nestjs/swagger';

export class HistoryStepDto {
  @ApiProperty({ description: 'The version that the edit brought about.' }) version: number;
  @ApiProperty() label: string;
}
/** What undo and redo would take of one's own edits. */
export class AheadDto {
  @ApiProperty({ type: [HistoryStepDto], description: 'Own edits, the next one to undo first.' })
  undo: HistoryStepDto[];
  @ApiProperty({ type: [HistoryStepDto], description: 'Own edits, the next one to redo first.' })
  redo: HistoryStepDto[];
}
