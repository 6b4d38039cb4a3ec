import { Controller, type Control, type FieldPath, type FieldValues } from 'react-hook-form';
import { Field, type FieldProps } from './field';

interface FormFieldProps<T extends FieldValues, Out> extends Omit<
  FieldProps,
  'value' | 'onChangeText' | 'onBlur' | 'error'
> {
  control: Control<T, unknown, Out>;
  /** Of which value of the form, a text, this is the field. */
  name: FieldPath<T>;
}

/** A text field of a form, with what the form says of it. */
export const FormField = <T extends FieldValues, Out = T>({ control, name, ...field }: FormFieldProps<T, Out>) => (
  <Controller
    control={control}
    name={name}
    render={({ field: { value, onChange, onBlur }, fieldState }) => (
      <Field {...field} value={value ?? ''} onChangeText={onChange} onBlur={onBlur} error={fieldState.error?.message} />
    )}
  />
);
