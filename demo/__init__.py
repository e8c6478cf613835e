"""The demo workshop: a made-up community pottery studio that needs covers."""
