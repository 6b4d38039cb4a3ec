import { Row, Stack } from '../../../ui/layout';
import { Field } from '../../../ui/field';
import { faultOf, PLAN_FIELDS, type Entered, type PlanFieldId } from './fields';

interface FieldRowProps {
  ids: readonly PlanFieldId[];
  entered: Entered;
  change: (change: Partial<Entered>) => void;
}

/** Fields of the plan beside each other, as many as there is room for. */
export function FieldRow({ ids, entered, change }: FieldRowProps) {
  return (
    <Row wrap columnGap={24}>
      {ids.map((id) => {
        const field = PLAN_FIELDS[id];
        return (
          <Stack key={id} grow={1} basis={260}>
            <Field
              label={field.label}
              value={entered[id]}
              onChangeText={(text) => change({ [id]: text })}
              inputMode="decimal"
              error={faultOf(id, entered[id]) ?? undefined}
              hint={'hint' in field ? field.hint : undefined}
            />
          </Stack>
        );
      })}
    </Row>
  );
}
