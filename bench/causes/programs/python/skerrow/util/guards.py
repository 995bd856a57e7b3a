def require(value, name):
    if value is None:
        raise ValueError(f"{name} must not be none")
    return value
