import { chakra } from "@chakra-ui/react";

/** The key that does it, where it acts. */
export function Keycap({ children }: { children: string }) {
  return (
    <chakra.kbd
      aria-hidden
      fontFamily="body"
      fontSize="15px"
      fontWeight="600"
      lineHeight="1"
      paddingInline="5px"
      paddingBlock="3px"
      borderWidth="1px"
      borderColor="currentcolor"
      borderRadius="3px"
    >
      {children}
    </chakra.kbd>
  );
}
