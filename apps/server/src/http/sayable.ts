import { ValidateBy } from 'class-validator';

/** Text that the database can hold: without the NUL character. What is no text is reported by another check. */
export const Sayable = (): PropertyDecorator =>
  ValidateBy({
    name: 'sayable',
    validator: {
      validate: (value) => typeof value !== 'string' || !value.includes('\0'),
      defaultMessage: () => '$property must not have a NUL character in it',
    },
  });
