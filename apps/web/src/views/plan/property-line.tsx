import {
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
import { Entry, type Read } from '../../parts/ui/entry.js';
import { NameEntry, Remove, spoken, Tick, without } from './declared-parts.js';

/** One property: its type, what it is at first, and whether it is a key. */
export function PropertyLine({
  index,
  asset,
  property,
  onSet,
  onRename,
}: {
  index: ProjectIndex;
  asset: AssetIndex;
  property: Property;
  onSet: (next: Property | null) => void;
  onRename: (to: string) => void;
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
        <NameEntry name={name} taken={asset.propertyAt} onRename={onRename} />
        <Entry
          label={`Type of ${name}`}
          shown=":"
          width={100}
          value={type}
          read={(text): Read<Type> => {
            const parsed = spoken(parseFields(`x: ${text}`));
            return 'error' in parsed ? { error: 'a type' } : { value: parsed.value[0].type };
          }}
          onTake={(next) => onSet({ ...property, type: next, default: defaultOf(index, next) })}
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
function defaultOf(index: ProjectIndex, type: Type): Value {
  if (type === 'bool') return false;
  if (type === 'int' || type === 'float') return 0;
  if (type === 'vec2') return [0, 0];
  const { enums, tables } = index.project;
  if (type.startsWith('enum:')) return enums?.find((e) => e.name === type.slice(5))?.values[0] ?? '';
  if (type.startsWith('key:')) return tables?.find((t) => t.name === type.slice(4))?.keys[0] ?? '';
  return '';
}
