"""Pictures of the bed or of a scrap, laid flat so that they can be measured."""
