/** One page a step, written for artists: what one does there, in the order in which one does it. */
export interface HelpPage {
  readonly title: string;
  readonly sections: readonly { readonly heading: string; readonly text: string }[];
}

export const HELP: readonly HelpPage[] = [
  {
    title: 'Wall',
    sections: [
      {
        heading: 'Productions and shots',
        text: 'A production holds the shots of one film or sequence. Make one, make shots in it, and click a shot to open it. Everything that says “Saved” is safe, whatever happens to the window or the machine.',
      },
      {
        heading: 'Several shots at once',
        text: 'Ctrl+click chooses shots. The bar above them hands all of them off, surveys them, gives them another rate or size, or the next version of a painting: each is changed by an edit of its own, and undone there.',
      },
      {
        heading: 'Order, copies, the bin',
        text: 'Drag a shot by the grip under its picture to change the order. The three dots beside it rename, duplicate (with its move, or only the stage), move it to another production, or delete it. What was deleted waits in the Bin.',
      },
    ],
  },
  {
    title: 'Art',
    sections: [
      {
        heading: 'Bring in a painting',
        text: 'Drop a layered document, single pictures, a folder or a zip anywhere on the page. You see it before it lands. Several pictures of one size are one painting: drag them into order, or turn the order round. Numbered drawings come in as one moving plane.',
      },
      {
        heading: 'A next version',
        text: 'Drop a file of the same name again: its planes take the new paint and keep their place, depth and keys. What was cut is cut again from the new paint, and you are told where the painter changed what an outline runs through.',
      },
      {
        heading: 'Cut, fill, cards and shapes',
        text: 'A flat painting is cut into planes by outline or colour; the hole is filled from around it. Cards are gradients without a file, shapes are drawn by hand. A soft border and its filling laid together are the painting again.',
      },
      {
        heading: 'Drawings that move',
        text: 'Drag drawings into another order, repeat or delete them, add more, and drag the end of one to hold it longer. A right click turns planes into drawings of one plane, and back.',
      },
    ],
  },
  {
    title: 'Stage',
    sections: [
      {
        heading: 'The Stand',
        text: 'The Stand is the view down the depth of the stage: near at the top, far at the bottom. Each bar shows where a plane’s paint begins and ends on screen now. Drag a bar up or down to give it depth; near another bar it takes the same depth, with Alt it does not.',
      },
      {
        heading: 'Datum, home, speed',
        text: 'The datum is depth 0: there a stage pixel is a pixel of the output, and characters act there. Home is the camera before anything moves. Speed says how far a plane slides in a pan, with 100 % for the datum: the farther, the slower.',
      },
      {
        heading: 'Hold picture, Spread, Rock',
        text: 'While Hold picture is on, a plane that changes depth is re-scaled so that the picture stays. Spread puts many planes in depth at once. Rock sways the camera to try the depths, and leaves no key behind.',
      },
      {
        heading: 'Pins',
        text: 'P puts down pins: click the points of planes that others must find on every frame, a table’s corner, a lamp. Name them in the dock, drag them in the picture. They stay on their paint in its next version.',
      },
      {
        heading: 'Sets',
        text: 'A set is planes that several shots follow. Choose planes, make a set of them, and use it in other shots of the production. What you change here is this shot’s own copy from then on; give it to the set, and every shot that follows changes too, after you were told how many.',
      },
      {
        heading: 'Mounts, Repeat, Run',
        text: 'A plane rides on the stage, on the camera, or on another plane. Repeat tiles it without end; Run lets it slide by itself. Run the world drives everything that repeats at once.',
      },
    ],
  },
  {
    title: 'Move',
    sections: [
      {
        heading: 'Sound',
        text: 'Sound … over the strip lays a WAV, MP3, OGG or FLAC under the shot. Its wave lies below the rows: drag it, or nudge it with the arrows, to where it begins. It is heard while the shot plays and while you scrub, and in films where Sound is ticked on Hand-off.',
      },
      {
        heading: 'Keying',
        text: 'Go to a frame and drag in the picture: the camera pans and is keyed there. With Shift it trucks. Away from frame 1 the first key also keys frame 1 as it was. With Keying off a change shifts the whole move, and no key is made.',
      },
      {
        heading: 'Keys, eases, what follows',
        text: 'Each row of the timing strip is a channel; the filled curve between two keys is its speed. Click it and choose an ease. The three dots of a row say what happens after the last key: rest, repeat, there and back, or go on from where it ended.',
      },
      {
        heading: 'Track, Ride, Sway, Takes',
        text: 'A Track is a path that bends without touching the timing. Ride records a move by hand while the shot plays; Escape gives it up. Sway is a handheld drift over the finished move. A take keeps the whole set-up, to compare and to go back to.',
      },
    ],
  },
  {
    title: 'Look',
    sections: [
      {
        heading: 'The Stand as light, focus',
        text: 'Each bar is as soft as its plane is out of focus and as pale as the air makes it. Open the Iris, then click in the picture what shall be sharp, again for what is behind it: it is keyed at this frame, and the focus follows the plane wherever it goes. Two clicks at two frames pull the focus from one to the other. F does it for the chosen plane; the line on the Stand is dragged.',
      },
      {
        heading: 'Air, filter, grade',
        text: 'Air hazes what is far; the filter lies over everything but what rides on the camera; a Grade is a plane’s own. The pill beside a number keys it at this frame, and the strip below has its key like any other.',
      },
      {
        heading: 'Laid over, soft edges, lamps',
        text: 'A shadow is laid over by multiply, a lamp or rain by screen or as added light; what layered documents say of that comes in with them. A soft edge takes the paint in from its border without touching it. A lamp flickers by its seed.',
      },
      {
        heading: 'Fades, and looks to take along',
        text: 'Looks has fades from and to black, and takes the light over to that of another frame. A look is kept by name for the whole production, or copied and pasted. Match brings one colour of a plane to another that you click.',
      },
    ],
  },
  {
    title: 'Survey',
    sections: [
      {
        heading: 'What would go wrong',
        text: 'Every frame is looked at while you work, and again after each edit. Open findings count on the step’s tab. Choose one, or go with the arrow keys: the picture shows it at its worst frame, hatched where paint is missing. Below stands what is spare beyond the frame, plane by plane: to the west above each line, to the east below it.',
      },
      {
        heading: 'Cures, and what may stay',
        text: 'Point at a cure to try it in the picture, click to take it; Ctrl Z takes it back. What is meant can be left so with a note; it opens again when it grows by a tenth. What counts as wrong is yours to say.',
      },
    ],
  },
  {
    title: 'Hand-off',
    sections: [
      {
        heading: 'What leaves',
        text: 'Frames, films, contact sheets and packages, of the whole shot or from in to out. What was rendered once is not rendered again. A hand-off goes on when you leave the page.',
      },
      {
        heading: 'A package',
        text: 'The whole shot with its art in one file, for safe keeping or for another machine. Drop it on a production of the wall, or choose Open package there, and it is a shot again, the same.',
      },
      {
        heading: 'For the next desk',
        text: 'Stage data tell every channel and place on every frame, and where your pins are. The stage leaves as glTF for whoever works in 3D, the camera sheet on paper with its fields and moves. The still set is what to draw on: bring the drawings back as numbered pictures, and they stand in place. PNG frames can show depth, mattes or motion instead of the picture.',
      },
      {
        heading: 'Again, and many at once',
        text: 'Keep what you have set as a preset. A hand-off that is done is played here, asked for again, renamed or deleted. On the wall, choose shots with Ctrl or Shift and hand them all off with one preset, play a production in order, or save all of it as one file that opens again.',
      },
    ],
  },
  {
    title: 'Everywhere',
    sections: [
      {
        heading: 'Undo, Escape, the finder',
        text: 'Ctrl Z takes back, Ctrl Shift Z does again. Escape gives up whatever you are dragging or typing: nothing is kept half-way. Ctrl K finds a command, a plane, a shot or a frame. The question mark lists the keys of the page that you are on. A right click shows what can be done with what is under the pointer.',
      },
      {
        heading: 'Numbers',
        text: 'Every number can be typed, dragged by its label, or stepped with the arrow keys, with Shift ten times as far. Arithmetic and units are fine: 1920/2, 3f, 1.5s, 50%.',
      },
      {
        heading: 'Looking closer',
        text: 'The wheel zooms at the pointer, Space or the middle button pans, two fingers do both. Fit shows all of it, 100 % pixel for pixel.',
      },
    ],
  },
];
