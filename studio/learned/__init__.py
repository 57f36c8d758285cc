"""What has this kitchen learned from its own bowls?"""
