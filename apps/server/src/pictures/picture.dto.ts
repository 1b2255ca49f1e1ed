import { ApiProperty } from '@nestjs/swagger';

/** A picture that is stored. */
export class PictureDto {
  @ApiProperty({
    description: 'Its name: a hash of its bytes, and its kind',
    example: `${'0a'.repeat(16)}.png`,
  })
  name!: string;
}
