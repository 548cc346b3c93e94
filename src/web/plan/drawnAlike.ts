/**
 * For `memo`, of a part that takes the plan: it is drawn as before while every value of the plan is the
 * same, though the plan is another object on every rendering.
 */
export function drawnAlike<Props extends { plan: object }>(before: Props, after: Props): boolean {
  const { plan: planBefore, ...othersBefore } = before;
  const { plan, ...others } = after;
  return areAlike(planBefore, plan) && areAlike(othersBefore, others);
}

function areAlike(before: object, after: object): boolean {
  const values = new Map(Object.entries(before));
  const entries = Object.entries(after);
  return (
    entries.length === values.size &&
    entries.every(([name, value]) => values.has(name) && Object.is(values.get(name), value))
  );
}
