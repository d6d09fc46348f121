import { Box, Button, chakra } from "@chakra-ui/react";
import { useEffect, useRef } from "react";

/** Every key, by where it acts. */
const KEYS: [string, [string, string][]][] = [
  [
    "Anywhere",
    [
      ["?", "these keys"],
      ["Tab", "the next field or button; Shift back"],
    ],
  ],
  [
    "Room and rider",
    [
      ["/", "find a rider"],
      ["N", "a new rider"],
      ["U", "the next rider due"],
      ["← →", "the fits that are open; on a rider’s page the earlier and later ones"],
      ["Enter", "go on with the fit"],
    ],
  ],
  [
    "A fit",
    [
      ["J L", "previous and next station; with Alt from inside a field too"],
      ["C", "the station’s long page, and back"],
      ["A", "all foreseen values"],
      ["T", "the board as a table"],
      ["B", "before and after on the board"],
      ["Space", "watch the stroke"],
      ["PgUp PgDn", "walk the strip of trials; Home and End go to its ends"],
      ["Ctrl Z", "undo the last keep, put back, verdict or take out; at Body, set the last reading aside"],
      ["0", "at Intake: none of these"],
      ["X", "checked, stays: the first that is due again"],
    ],
  ],
  [
    "Board",
    [
      ["F", "enter it at the station’s dimension; Esc leaves it"],
      ["↑ ↓", "step the dimension; with Shift finer"],
      ["Enter", "commit the number; once more, or outside a field, try the change"],
      ["M", "measure the focused dimension again"],
      ["S", "foresee what the leading school proposes; once more, what the next one does"],
      ["[ ]", "on pads: turn the whole position by a degree, { } by a tenth"],
      ["D", "the map of the saddle, the plane of the hands: arrows walk it"],
    ],
  ],
  [
    "The next move",
    [
      ["Enter", "foresee it, or begin it; once more tries it"],
      ["O", "the other moves"],
      ["G", "where the right place is: ↑ ↓ an axis, ← → along it"],
      ["I", "I disagree"],
    ],
  ],
  [
    "A trial on the bench",
    [
      ["1 2 3", "better, same, worse"],
      ["K", "keep it"],
      ["Z", "put it back"],
    ],
  ],
  [
    "A protocol",
    [
      ["1 2 …", "begin one of the station, and answer it; P goes on with the one that waits"],
      ["⌫", "take the last call back"],
      ["E", "twice: end it"],
      ["H", "show a hidden setting while held"],
    ],
  ],
];

/** Every key, over the page. */
export function KeysDialog({ onClose }: { onClose: () => void }) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    const element = dialog.current;
    if (element && !element.open) element.showModal();
  }, []);
  return (
    <chakra.dialog
      ref={dialog}
      onClose={onClose}
      aria-labelledby="keys-title"
      margin="auto"
      padding="24px 28px"
      background="sheet"
      color="ink"
      borderWidth="1px"
      borderColor="soft"
      borderRadius="4px"
      maxWidth="960px"
      maxHeight="94vh"
    >
      <chakra.h2 id="keys-title" fontSize="22px" marginBottom="12px">
        Keys
      </chakra.h2>
      <Box columnCount={{ base: 1, md: 2 }} columnGap="36px">
        {KEYS.map(([where, keys]) => (
          <chakra.section key={where} aria-label={where} breakInside="avoid" marginBottom="12px">
            <chakra.h3 fontSize="17px">{where}</chakra.h3>
            <Box as="dl" display="grid" gridTemplateColumns="76px 1fr" rowGap="4px" fontSize="16px">
              {keys.map(([key, what]) => (
                <Box key={key} display="contents">
                  <chakra.dt fontWeight="700">{key}</chakra.dt>
                  <dd>{what}</dd>
                </Box>
              ))}
            </Box>
          </chakra.section>
        ))}
      </Box>
      <chakra.p marginTop="12px" fontSize="15px" color="soft">
        Single letters act outside text fields.
      </chakra.p>
      <Button marginTop="14px" onClick={() => dialog.current?.close()}>
        Close
      </Button>
    </chakra.dialog>
  );
}
