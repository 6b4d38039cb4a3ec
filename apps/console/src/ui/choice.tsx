import CheckBox from '@rneui/themed/dist/CheckBox';
import { useState } from 'react';
import { Pressable, View } from 'react-native';
import { Icon } from './icon';
import { chosenByArrows, turnedBySpace } from './keys';
import { type, useLook } from './look';
import { scaled } from './scale';
import { Body } from './text';

interface CheckRowProps {
  label: string;
  hint?: string;
  checked: boolean;
  onChange: (checked: boolean) => void;
  /** Why it cannot be answered now; it stays reachable, and says so when it is tried. */
  disabled?: false | string;
}

/** A yes-or-no question with its reason underneath. */
export function CheckRow({ label, hint, checked, onChange, disabled = false }: CheckRowProps) {
  const look = useLook();
  const [tried, setTried] = useState(false);
  const turn = () => (disabled === false ? onChange(!checked) : setTried(true));
  return (
    <View style={{ marginBottom: 8 }} {...turnedBySpace(turn)}>
      <CheckBox
        checked={checked}
        onPress={turn}
        title={label}
        role="checkbox"
        aria-checked={checked}
        aria-label={label}
        aria-description={disabled || undefined}
        checkedIcon={<Icon name="checkbox-marked" color={look.tide} size={26} />}
        uncheckedIcon={<Icon name="checkbox-blank-outline" color={look.inkSoft} size={26} />}
        containerStyle={{ backgroundColor: 'transparent', padding: 0, marginLeft: 0, marginRight: 0 }}
        wrapperStyle={{ minHeight: 48 }}
        textStyle={{
          fontFamily: type.body,
          fontWeight: 'normal',
          fontSize: scaled(16),
          lineHeight: scaled(22),
          color: look.ink,
          marginLeft: 10,
          flexShrink: 1,
        }}
      />
      {hint ? (
        <Body soft inset={36}>
          {hint}
        </Body>
      ) : null}
      {disabled !== false && tried ? (
        <Body aria-live="polite" inset={36}>
          {disabled}
        </Body>
      ) : null}
    </View>
  );
}

interface ChoiceProps<T extends string> {
  label: string;
  options: readonly { readonly id: T; readonly title: string; readonly hint?: string }[];
  value: T;
  onChange: (value: T) => void;
}

/** One of several, each with a reason. */
export function Choice<T extends string>({ label, options, value, onChange }: ChoiceProps<T>) {
  const look = useLook();
  return (
    <View
      role="radiogroup"
      aria-label={label}
      style={{ marginBottom: 16 }}
      {...chosenByArrows((index) => onChange(options[index]!.id))}
    >
      <Body bold below={4}>
        {label}
      </Body>
      {options.map((option, index) => {
        const chosen = option.id === value;
        // One stop of the Tab key for the group: the one that is chosen, or the first.
        const reached = chosen || (index === 0 && options.every(({ id }) => id !== value));
        return (
          <Pressable
            key={option.id}
            role="radio"
            aria-checked={chosen}
            aria-label={option.title}
            tabIndex={reached ? 0 : -1}
            onPress={() => onChange(option.id)}
            style={{
              flexDirection: 'row',
              gap: 10,
              minHeight: 48,
              paddingVertical: 8,
              borderTopWidth: 1,
              borderTopColor: look.rule,
              alignItems: 'flex-start',
            }}
          >
            <Icon
              name={chosen ? 'radiobox-marked' : 'radiobox-blank'}
              color={chosen ? look.tide : look.inkSoft}
              size={24}
            />
            <View style={{ flex: 1 }}>
              <Body bold={chosen}>{option.title}</Body>
              {option.hint ? <Body soft>{option.hint}</Body> : null}
            </View>
          </Pressable>
        );
      })}
    </View>
  );
}
