export function required(value, name) {
  if (value == null) throw new TypeError(`${name} is required`);
  return value;
}
