import {
  defaultOfType,
  parseArg,
  parseFields,
  printValue,
  type AssetIndex,
  type ProjectIndex,
  type Property,
  type Type,
  type Value,
} from '@oquel/core';
import type { ReactNode } from 'react';
import { Entry, type Read } from '../../../parts/ui/entry.js';
import { NameEntry, Remove, spoken, Tick, without } from './declared-parts.js';

/** One property: its type, what it is at first, and whether it is a key. */
export function PropertyDetails({
  index,
  asset,
  property,
  onSet,
}: {
  index: ProjectIndex;
  asset: AssetIndex;
  property: Property;
  onSet: (next: Property | null) => void;
}): ReactNode {
  const { name, type } = property;
  const readValue = (text: string): Read<Value> => {
    const parsed = parseArg(text, type, { index, payload: [], reader: null });
    if ('error' in parsed) return parsed;
    const isValue = typeof parsed.arg !== 'object' || Array.isArray(parsed.arg);
    return isValue ? { value: parsed.arg as Value } : { error: 'expected a value' };
  };
  return (
    <div className="decl" data-decl={name}>
      <div className="row">
        <NameEntry name={name} taken={asset.propertyAt} onRename={(to) => onSet({ ...property, name: to })} />
        <Entry
          label={`Type of ${name}`}
          shown=":"
          width={100}
          value={type}
          read={(text): Read<Type> => {
            const parsed = spoken(parseFields(`x: ${text}`));
            return 'error' in parsed ? { error: 'a type' } : { value: parsed.value[0].type };
          }}
          onTake={(next) => onSet({ ...property, type: next, default: defaultOfType(index, next) })}
        />
        <Remove what={name} onRemove={() => onSet(null)} />
      </div>
      <div className="row">
        <Entry
          label={`Default of ${name}`}
          shown="at first"
          width={110}
          value={typeof property.default === 'string' ? property.default : printValue(property.default)}
          read={readValue}
          onTake={(value) => onSet({ ...property, default: value })}
        />
        <Tick
          text="key"
          on={property.isKey === true}
          onSet={(on) => onSet(without({ ...property, isKey: on }, 'isKey', !on))}
        />
        <Tick
          text="unique"
          on={property.unique === true}
          onSet={(on) => onSet(without({ ...property, unique: on }, 'unique', !on))}
        />
      </div>
    </div>
  );
}
