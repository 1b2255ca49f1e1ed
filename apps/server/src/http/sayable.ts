import { Matches } from 'class-validator';

/** Text that the database can hold: without the NUL character. */
export const Sayable = (): PropertyDecorator =>
  Matches(/^[^\0]*$/, { message: '$property must not have a NUL character in it' });
