"""The demo of the whole product, loaded from the stand-ins' world. Nothing imports it."""
