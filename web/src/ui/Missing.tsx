import { Button, Container, Typography } from "@mui/material";
import { Link } from "react-router";
import { toHome } from "./toHome";

export function Missing() {
  return (
    <Container component="main" sx={{ py: 4 }}>
      <Typography variant="h1" gutterBottom>
        There is nothing here
      </Typography>
      <Button variant="contained" component={Link} to="/">
        {toHome}
      </Button>
    </Container>
  );
}
