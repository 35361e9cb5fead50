"""Plans at work: what photos tell, previews, pictures begun from them, and files."""
