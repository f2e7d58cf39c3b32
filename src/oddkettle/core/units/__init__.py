"""Units: conversion factors, quantities in sentences, sizes that are sold."""
