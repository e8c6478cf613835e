"""Who may do what: accounts, members, invitations."""
