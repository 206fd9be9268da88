"""HTTP: thin routers over store, exchange and core.  Errors become problem details (RFC 9457)."""
