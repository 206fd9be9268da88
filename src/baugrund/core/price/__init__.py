"""What the job takes and costs: parts, work, what is paid when, and what the client is offered."""
