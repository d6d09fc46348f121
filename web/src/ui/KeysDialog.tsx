import { Box, Button, chakra } from "@chakra-ui/react";
import { useEffect, useRef } from "react";

const KEYS: [string, string][] = [
  ["/", "find a rider"],
  ["?", "these keys"],
  ["Tab", "walk the tape round the bike; Esc leaves the board"],
  ["↑ ↓", "step the dimension; with Shift finer"],
  ["Enter", "commit the number; once more, or outside a field, try the change"],
  ["K", "keep the trial"],
  ["Z", "put the trial back"],
  ["B", "before and after on the board"],
  ["Space", "watch the stroke"],
  ["J L", "previous and next station"],
  ["A", "all foreseen values"],
  ["C", "the long page of intake, first look, feet, cranks, saddle; and back"],
  ["D", "the map of the saddle: arrows walk it"],
  ["1 2 …", "begin a protocol of the station; P goes on with the one that waits"],
  ["⌫", "in a protocol: take the last call back; E twice ends it; H shows a hidden setting while held"],
  ["← →", "earlier and later fits, on a rider’s page"],
  ["Ctrl Z", "set the last reading of a body measure aside"],
  ["M", "measure the focused dimension again"],
  ["T", "the board as a table"],
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
      maxWidth="560px"
    >
      <chakra.h2 id="keys-title" fontSize="22px" marginBottom="12px">
        Keys
      </chakra.h2>
      <Box as="dl" display="grid" gridTemplateColumns="90px 1fr" rowGap="6px" fontSize="17px">
        {KEYS.map(([key, what]) => (
          <Box key={key} display="contents">
            <chakra.dt fontWeight="700">{key}</chakra.dt>
            <dd>{what}</dd>
          </Box>
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
