import Input from '@rneui/themed/dist/Input';
import { useId } from 'react';
import { View, type TextInputProps } from 'react-native';
import { type, useLook } from './look';
import { scaled } from './scale';
import { Body } from './text';

export interface FieldProps extends Pick<
  TextInputProps,
  'value' | 'onChangeText' | 'multiline' | 'maxLength' | 'autoCapitalize' | 'autoFocus' | 'inputMode'
> {
  onBlur?: () => void;
  onSubmitEditing?: () => void;
  label: string;
  /** One line of help under the field. */
  hint?: string;
  error?: string;
  mono?: boolean;
  /** What is typed is not shown. */
  secret?: boolean;
}

/** A labelled text field; its error is tied to it for screen readers. */
export function Field({ label, hint, error, mono, secret, multiline, ...rest }: FieldProps) {
  const look = useLook();
  const id = useId();
  const aria = { 'aria-describedby': `${id}-note`, 'aria-invalid': error !== undefined };
  return (
    <View style={{ marginBottom: 16 }}>
      <Body bold nativeID={`${id}-label`} below={4}>
        {label}
      </Body>
      <Input
        {...rest}
        {...aria}
        aria-label={label}
        secureTextEntry={secret}
        multiline={multiline}
        numberOfLines={multiline ? 3 : 1}
        autoCorrect={!mono}
        placeholderTextColor={look.inkSoft}
        renderErrorMessage={false}
        containerStyle={{ paddingHorizontal: 0 }}
        inputContainerStyle={{
          borderWidth: 1,
          borderBottomWidth: 1,
          borderColor: error ? look.alarm : look.inkSoft,
          borderRadius: 4,
          backgroundColor: look.leaf,
        }}
        inputStyle={{
          fontFamily: mono ? type.mono : type.body,
          fontSize: scaled(17),
          color: look.ink,
          minHeight: multiline ? 88 : 48,
          paddingHorizontal: 12,
          paddingVertical: multiline ? 10 : 0,
          textAlignVertical: multiline ? 'top' : 'center',
        }}
      />
      <View nativeID={`${id}-note`} aria-live="polite">
        {error ? (
          <Body tone="alarm" above={4}>
            {error}
          </Body>
        ) : hint ? (
          <Body soft above={4}>
            {hint}
          </Body>
        ) : null}
      </View>
    </View>
  );
}
