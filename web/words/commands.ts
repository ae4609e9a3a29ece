/** The finder and the list of keys: what it says, in English. */
export const commandsWords = {
  findACommandAPlane: 'Find a command, a plane, a shot or a frame',
  keysOfTheKeyboard: 'Keys of the keyboard',
  find: 'Find',
  aCommandAPlaneA: 'A command, a plane, a shot, a frame …',
  nothingIsCalledThatHere: 'Nothing is called that here.',
  commands: 'Commands',
  keyboard: 'Keyboard',
  esc: 'Esc',
  deleteIt: 'Delete',
  backspace: 'Backspace',
  enter: 'Enter',
  home: 'Home',
  end: 'End',
  space: 'Space',
} as const;
