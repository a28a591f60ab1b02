/** What is to be said before anybody shakes a machine. */
export const BEFOREHAND = [
  'It is loud and rough. Tighten belts, screws and the sensor first.',
  'Take prints and tools off the bed. Stop it if something shakes loose.',
  'Start the record while the head stands, before the knock, and end it after the last stroke.',
];
