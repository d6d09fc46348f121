import { Box, chakra, Flex } from "@chakra-ui/react";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { useKeys } from "./keys";
import { KeysDialog } from "./KeysDialog";

/** The mark and the name: back to the room. */
export function Home() {
  return (
    <chakra.span fontSize="22px" fontWeight="750">
      <Link to="/" aria-label="Wedge, to the room" style={{ display: "flex", alignItems: "center", gap: 10 }}>
        <chakra.svg width="28px" height="16px" viewBox="0 0 28 16" aria-hidden color="tide">
          <path d="M0 16 28 2v14z" fill="currentcolor" />
        </chakra.svg>
        Wedge
      </Link>
    </chakra.span>
  );
}

/** The bar at the top of every page. */
export function TopBar({ children }: { children?: ReactNode }) {
  return (
    <Flex
      as="header"
      align="center"
      gap="18px"
      minHeight="52px"
      paddingInline="18px"
      borderBottomWidth="1px"
      borderColor="hairline"
      background="sheet"
    >
      <Home />
      {children}
    </Flex>
  );
}

interface PageProps {
  title: string;
  bar?: ReactNode;
  /** As wide as the window: for what is drawn rather than read. */
  wide?: boolean;
  children: ReactNode;
}

/** A page that scrolls. */
export function Page({ title, bar, wide, children }: PageProps) {
  const [keysOpen, setKeysOpen] = useState(false);
  useKeys({ "?": () => setKeysOpen(true) });
  return (
    <Box minHeight="100vh">
      <title>{`${title} · Wedge`}</title>
      <TopBar>{bar}</TopBar>
      <Box as="main" maxWidth={wide ? "1440px" : "1080px"} marginInline="auto" padding="24px 18px 64px">
        {children}
      </Box>
      {keysOpen && <KeysDialog onClose={() => setKeysOpen(false)} />}
    </Box>
  );
}

/** A page that has nothing to show, and the way back. */
export function Nowhere({ what }: { what: string }) {
  return (
    <Page title="Nothing here">
      <chakra.h1 fontSize="29px">{what}</chakra.h1>
      <chakra.p marginTop="12px">
        <chakra.span color="tide" textDecoration="underline">
          <Link to="/">Back to the room</Link>
        </chakra.span>
      </chakra.p>
    </Page>
  );
}
