import { Button } from "@chakra-ui/react";
import { Link } from "react-router";

/** The ways to see more than the eye: a photo or a clip, and takes of markers or torque. */
export function Eyes({ session }: { session: string }) {
  return (
    <div className="buttons">
      <Button asChild>
        <Link to={`/sessions/${session}/film`}>Film bench</Link>
      </Button>
      <Button asChild>
        <Link to={`/sessions/${session}/takes`}>Takes</Link>
      </Button>
    </div>
  );
}
